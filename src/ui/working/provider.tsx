'use client';

import dynamic from 'next/dynamic';
import { createContext, isValidElement, useContext, useMemo, useState, type ReactNode } from 'react';
import type { Working } from '@/core/working/working';

import styles from '../answer/stop.module.css';
import { SideSheet } from '@/ui/dialog';
import { AwayLine } from '@/ui/away';
import { refetched, type Away } from '@/ui/refetched';
import { msg } from './messages';

type Open = (working: () => Working) => void;
const WorkingContext = createContext<Open>(() => {});

const Missing = ({ again }: Away) => <AwayLine className="quiet" what={msg.theWorking} again={again} />;

const load = () => import('./steps').then((m) => m.Steps);
const Steps = dynamic<{ working: Working }>(() => load().catch(() => refetched(load, Missing)), {
  ssr: false,
  loading: () => <p className="quiet">{msg.settingTheFormulas}</p>,
});

/** A working's steps in the page, set when the formula setter has arrived. */
export function WorkingSteps({ working }: { working: Working }) {
  return <Steps working={working} />;
}

/** Holds the drawer in which any number shows its working. */
export function WorkingProvider({ children }: { children: ReactNode }) {
  const [working, setWorking] = useState<Working | null>(null);
  const open = useMemo<Open>(() => (make) => setWorking(make()), []);
  return (
    <WorkingContext value={open}>
      {children}
      <SideSheet
        open={working !== null}
        title={working?.title}
        onClose={() => setWorking(null)}
        size={460}
        destroyOnHidden
        mask={{ enabled: true, blur: false }}
      >
        {working && <Steps working={working} />}
      </SideSheet>
    </WorkingContext>
  );
}

/** What is written in nodes, as a reader of the screen hears it. */
function textOf(node: ReactNode): string {
  if (typeof node === 'string' || typeof node === 'number') return String(node);
  if (Array.isArray(node)) return (node as readonly ReactNode[]).map(textOf).join('');
  return isValidElement<{ children?: ReactNode }>(node) ? textOf(node.props.children) : '';
}

/** A computed number: dotted line under it, its working behind it. It is read out with what it is of. */
export function Num({
  children,
  working,
  small = false,
  label,
}: {
  children: ReactNode;
  working: () => Working;
  small?: boolean;
  label: string;
}) {
  const open = useContext(WorkingContext);
  return (
    <button
      type="button"
      className={styles['num']}
      data-small={small}
      onClick={() => open(working)}
      aria-label={`${textOf(children)}, ${label}: show the working`}
    >
      {children}
    </button>
  );
}
