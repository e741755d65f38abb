'use client';

import { Button, Switch } from 'antd';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import styles from './at-car.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

/** Keeps the screen awake while something is looked at from beside the car; where the browser cannot, says so. */
function useAwake(on: boolean): 'awake' | 'cannot' | 'off' {
  const [state, setState] = useState<'awake' | 'cannot' | 'off'>('off');
  useEffect(() => {
    if (!on) return;
    let lock: WakeLockSentinel | null = null;
    let ended = false;
    const ask = (): void => {
      const wake = (navigator as { wakeLock?: WakeLock }).wakeLock;
      if (!wake) {
        setState('cannot');
        return;
      }
      wake.request('screen').then(
        (got) => {
          if (ended) void got.release();
          else {
            lock = got;
            setState('awake');
          }
        },
        () => setState('cannot'),
      );
    };
    // A page that was hidden has lost it.
    const seen = (): void => {
      if (document.visibilityState === 'visible') ask();
    };
    const first = setTimeout(ask, 0);
    document.addEventListener('visibilitychange', seen);
    return () => {
      ended = true;
      clearTimeout(first);
      document.removeEventListener('visibilitychange', seen);
      void lock?.release();
      setState('off');
    };
  }, [on]);
  return state;
}

const BEEP_Hz = 880;
const BEEP_s = 0.25;
const APART_s = 0.4;

/** Beeps three times and says it, where the browser can. */
function callOut(text: string, audio: AudioContext | null): void {
  if (audio) {
    for (let i = 0; i < 3; i += 1) {
      const tone = audio.createOscillator();
      const gain = audio.createGain();
      tone.frequency.value = BEEP_Hz;
      gain.gain.value = 0.3;
      tone.connect(gain).connect(audio.destination);
      tone.start(audio.currentTime + i * APART_s);
      tone.stop(audio.currentTime + i * APART_s + BEEP_s);
    }
  }
  if (typeof speechSynthesis !== 'undefined') speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

/** A switch for being called, and the call: whenever `text` becomes another one, it is beeped and spoken. Off until asked for. */
export function Called({ text }: { text: string | null }) {
  const [on, setOn] = useState(false);
  const audio = useRef<AudioContext | null>(null);
  const last = useRef<string | null>(null);
  useEffect(() => {
    if (on && text !== null && text !== last.current) callOut(text, audio.current);
    last.current = text;
  }, [on, text]);
  return (
    <label className={styles['called']}>
      <Switch
        aria-label={msg.beepAndSpeak}
        checked={on}
        onChange={(next) => {
          // A browser lets a page make a sound only from a tap on.
          if (next && typeof AudioContext !== 'undefined') audio.current ??= new AudioContext();
          setOn(next);
        }}
      />
      {msg.beepAndSpeakWhenItNeeds}
    </label>
  );
}

/** Opens one thing over the whole screen, in type that is read at arm’s length, the screen kept awake. */
export function Large({ title, children }: { title: string; children: (close: () => void) => ReactNode }) {
  const [open, setOpen] = useState(false);
  const awake = useAwake(open);
  const close = (): void => setOpen(false);
  return (
    <>
      <Button className="no-print" onClick={() => setOpen(true)} aria-label={`Large: ${title}`}>
        {msg.largeOneThingAtATime}
      </Button>
      <Dialog
        open={open}
        onCancel={close}
        footer={null}
        width="100%"
        className={styles['large']!}
        title={title}
        destroyOnHidden
        closable={{ 'aria-label': 'Close' }}
      >
        {children(close)}
        <p className={styles['awake']}>
          {awake === 'cannot'
            ? 'This browser cannot keep the screen awake on this address: set the phone’s own screen time longer.'
            : awake === 'awake'
              ? 'The screen stays awake.'
              : ''}
        </p>
      </Dialog>
    </>
  );
}

/** One thing after the other, with large buttons to go on and back. */
export function OneByOne({ items, done }: { items: readonly { readonly key: string; readonly show: ReactNode }[]; done?: () => void }) {
  const [at, setAt] = useState(0);
  const last = at >= items.length - 1;
  return (
    <div className={styles['one']}>
      <p className={styles['count']}>
        {at + 1} {msg.ofWord} {items.length}
      </p>
      {items[at]?.show}
      <div className={styles['go']}>
        <Button size="large" disabled={at === 0} onClick={() => setAt(at - 1)}>
          {msg.back}
        </Button>
        <Button size="large" type="primary" disabled={last && !done} onClick={() => (last ? done?.() : setAt(at + 1))}>
          {last ? 'Finished' : 'Next'}
        </Button>
      </div>
    </div>
  );
}
