'use client';

import { App, Button, Input, Select, Tooltip } from 'antd';
import { Fragment, useState } from 'react';
import type { RunDoc, RunSide, StoredRun } from '@/core/documents/run';
import { inOrder } from '@/core/runs/order';
import { formatQuantity } from '@/core/units/quantity';
import { useJobStore, useRuns, useShelf } from '@/features/job/provider';
import { WhenListening } from '@/ui/when-listening';
import { failureText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { AskColumns } from '../files/ask-columns';
import { Arranged, ArrangedRuns } from './arranged';
import { removeRun, saveRun } from '../files/save-run';
import type { PreparedRun } from './compare.worker';
import styles from '../test.module.css';
import runsStyles from './runs.module.css';
import { DeleteOutlined } from '@ant-design/icons';
import type { JobFindings } from '@/core/verdict/findings';
import { send } from '@/ui/post';
import { useUndo } from '@/ui/undo';
import { msg } from './messages';
import { later } from '@/ui/later';

/** Comes when it is opened. */
const RunRecord = later(() => import('../files/run-record').then((m) => m.RunRecord));

const sideKey = (side: RunSide | null): string => (side === null ? 'none' : side.kind === 'stock' ? 'stock' : side.unitId);
const sideOf = (key: string): RunSide | null =>
  key === 'none' ? null : key === 'stock' ? { kind: 'stock' } : { kind: 'unit', unitId: key };

/** Asks why a run does not count; the reason stays beside it for everybody to see. */
function LeaveOut({ name, onDone, onCancel }: { name: string; onDone: (reason: string) => void; onCancel: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <form
      className={runsStyles['leaveOut']}
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim() !== '') onDone(reason.trim());
      }}
    >
      <Input
        size="small"
        autoFocus
        aria-label={`Why ${name} is left out`}
        placeholder={msg.whyWheelSlippedLiftedEarly}
        value={reason}
        maxLength={200}
        onChange={(e) => setReason(e.target.value)}
        onKeyDown={(e) => e.key === 'Escape' && onCancel()}
      />
      <Button size="small" htmlType="submit" disabled={reason.trim() === ''}>
        {msg.leaveOut}
      </Button>
    </form>
  );
}

function facts(run: StoredRun, prepared: PreparedRun | undefined, pack: Parameters<typeof formatQuantity>[2]): string[] {
  const day = run.doc.takenOn?.replace(/^\d{4}-/, '') ?? '';
  const when = run.doc.takenAt ? `${day} ${run.doc.takenAt}` : day;
  if (!prepared || prepared.failure) return [when];
  return [
    when,
    run.doc.picture ? `from a picture, ± ${(2 * run.doc.picture.error_pct).toFixed(1)} %` : '',
    prepared.correction === 'unknown' ? 'correction unknown' : prepared.correction === 'none' ? 'uncorrected' : '',
    prepared.inletAirStart_K === null ? '' : `inlet ${formatQuantity(prepared.inletAirStart_K, 'temperature', pack)}`,
    run.doc.pulley && `pulley ${run.doc.pulley}`,
    prepared.block > 1 ? `averaged by ${prepared.block}` : '',
  ].filter((t) => t !== '');
}

function Run({
  run,
  prepared,
  onEdit,
  onRemove,
  onSave,
}: {
  run: StoredRun;
  prepared: PreparedRun | undefined;
  onEdit: () => void;
  onRemove: () => void;
  onSave: (doc: RunDoc) => void;
}) {
  const { pack } = usePrefs();
  const shelf = useShelf();
  const [asking, setAsking] = useState(false);
  const options = [
    { value: 'none', label: msg.whichSide },
    { value: 'stock', label: msg.stock },
    ...shelf.map((u) => ({ value: u.id, label: u.doc.name })),
  ];
  const out = run.doc.leftOut !== null;
  const runName = <span className={runsStyles['runName']}>{run.doc.name}</span>;
  const doubtful = run.columns.some((c, i) => c.doubt && !c.ask && run.doc.channels.some((m) => m.column === i && m.quantity !== 'other'));
  return (
    <div className={runsStyles['run']} data-found={run.id} data-out={out}>
      <div className={runsStyles['runHead']}>
        <div className={runsStyles['told']}>
          <WhenListening hold={runName}>
            <Tooltip title={run.doc.name} trigger={['hover', 'focus', 'click']}>
              {runName}
            </Tooltip>
          </WhenListening>
          <div className={runsStyles['runFacts']}>
            {facts(run, prepared, pack).map((fact, i) => (
              <Fragment key={fact}>
                {i > 0 && ' · '}
                <span className={runsStyles['fact']}>{fact}</span>
              </Fragment>
            ))}
            {doubtful && (
              <button type="button" className={styles['doubt']} onClick={onEdit}>
                {msg.columnsGuessedCheck}
              </button>
            )}
          </div>
        </div>
        <WhenListening>
          <Button
            size="small"
            type="text"
            className={runsStyles['remove']!}
            icon={<DeleteOutlined aria-hidden />}
            aria-label={`Remove ${run.doc.name} from this job`}
            onClick={onRemove}
          />
        </WhenListening>
      </div>
      <div className={runsStyles['runSide']}>
        <WhenListening hold={options.find((o) => o.value === sideKey(run.doc.side))?.label}>
          <Select
            aria-label={`Side of ${run.doc.name}`}
            size="small"
            variant="borderless"
            className={runsStyles['side']!}
            status={run.doc.side === null ? 'warning' : ''}
            popupMatchSelectWidth={220}
            value={sideKey(run.doc.side)}
            options={options}
            onChange={(key) => onSave({ ...run.doc, side: sideOf(key) })}
          />
          <span className={runsStyles['runTools']}>
            <Button size="small" type="text" aria-label={`Details of ${run.doc.name}`} onClick={onEdit}>
              {msg.details}
            </Button>
            {out ? (
              <Button
                size="small"
                type="text"
                aria-label={`Count ${run.doc.name} again`}
                onClick={() => onSave({ ...run.doc, leftOut: null })}
              >
                {msg.count}
              </Button>
            ) : (
              <Button size="small" type="text" aria-label={`Leave out ${run.doc.name}`} onClick={() => setAsking((a) => !a)}>
                {msg.leaveOut2}
              </Button>
            )}
          </span>
        </WhenListening>
      </div>
      {!out && <AskColumns run={run} onSave={onSave} onEdit={onEdit} />}
      {prepared?.failure && !/_unit_unknown$/.test(prepared.failure.reason ?? '') && (
        <p className={styles['wrong']} role="alert">
          {failureText(prepared.failure, pack)}
        </p>
      )}
      {out && (
        <p className={runsStyles['reason']}>
          {msg.leftOut} {run.doc.leftOut}
        </p>
      )}
      {asking && (
        <LeaveOut
          name={run.doc.name}
          onCancel={() => setAsking(false)}
          onDone={(leftOut) => {
            setAsking(false);
            onSave({ ...run.doc, leftOut });
          }}
        />
      )}
    </div>
  );
}

/** The job's runs of one kind: side, what was made of them, why one does not count, and their records. */
export function RunsList({ prepared, kind = 'dyno' }: { prepared: readonly PreparedRun[]; kind?: RunDoc['kind'] }) {
  const { runs: all, setRuns } = useRuns();
  const inTurn = inOrder(all.filter((r) => r.doc.kind === kind));
  const { runs } = inTurn;
  const store = useJobStore();
  const { message } = App.useApp();
  const undo = useUndo();
  const [editing, setEditing] = useState<StoredRun | null>(null);
  const save = async (run: StoredRun, doc: RunDoc): Promise<void> => {
    const saved = await saveRun(run, doc);
    const changed = new Map([saved.run, ...(saved.alike ?? [])].map((r) => [r.id, r]));
    setRuns((list) => list.map((r) => changed.get(r.id) ?? r));
    store.setState({ findings: saved.findings });
  };
  /** The job's runs put in another order by hand: each keeps its place for good. */
  const arrange = async (ids: readonly string[]): Promise<void> => {
    try {
      for (const [place, runId] of ids.entries()) {
        const run = runs.find((r) => r.id === runId)!;
        if (run.doc.place !== place) await save(run, { ...run.doc, place });
      }
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  const remove = (run: StoredRun): void => {
    const tell = (error: unknown): void => void message.error((error as Error).message);
    const back = async (): Promise<void> => {
      const answer = await send<{ findings: JobFindings }>('POST', '/api/trash', { kind: 'run', id: run.id, trashed: false });
      store.setState({ findings: answer.findings });
      setRuns((list) => [...list, run]);
    };
    removeRun(run.id).then((findings) => {
      setRuns((list) => list.filter((r) => r.id !== run.id));
      store.setState({ findings });
      setEditing(null);
      undo(`${run.doc.name} is out of this job.`, () => back().catch(tell));
    }, tell);
  };
  return (
    <>
      <ArrangedRuns ids={runs.map((r) => r.id)} onArrange={(ids) => void arrange(ids)}>
        {runs.map((run) => (
          <Arranged key={run.id} id={run.id} name={run.doc.name} movable={runs.length > 1 && kind === 'dyno'}>
            <Run
              run={run}
              prepared={prepared.find((p) => p.id === run.id)}
              onEdit={() => setEditing(run)}
              onRemove={() => remove(run)}
              onSave={(doc) => void save(run, doc).catch((e: Error) => message.error(e.message))}
            />
          </Arranged>
        ))}
      </ArrangedRuns>
      {runs.length > 1 && kind === 'dyno' && (
        <p className="quiet" data-guessed={inTurn.guessed}>
          {msg.order} {inTurn.basis}
          {inTurn.guessed ? ', which is a guess. Drag them into the order they were driven.' : '.'}
        </p>
      )}
      {editing && (
        <RunRecord
          run={editing}
          onClose={() => setEditing(null)}
          onSave={async (doc) => {
            await save(editing, doc);
            setEditing(null);
          }}
        />
      )}
    </>
  );
}
