'use client';

import type { Remote } from 'comlink';
import { useEffect, useMemo, useRef, useState } from 'react';
import { isFailure } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import type { LoggedCar, LogLook } from '@/core/logs/compare-logs';
import type { StoredRun } from '@/core/documents/run';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { openThread } from '@/ui/thread';
import { useAgain } from '@/ui/use-again';
import type { DrawnTrace, LogApi } from './log.worker';

const AWAY = 'The log could not be read: the server or its database is away. It is asked again until it is back.';

/** The worker that looks into logs; one a page. */
export function useLogWorker(): Remote<LogApi> | null {
  const [api, setApi] = useState<Remote<LogApi> | null>(null);
  useEffect(() => {
    const thread = openThread<LogApi>(() => new Worker(new URL('./log.worker.ts', import.meta.url), { type: 'module' }));
    setApi(thread.api);
    return thread.end;
  }, []);
  return api;
}

/** The car as the logs are looked at with: its engine, its gears, and what the model says it asks for. */
function useLoggedCar(): LoggedCar {
  const engine = useJob((s) => s.doc.car.engine);
  const gearbox = useJob((s) => s.doc.car.gearbox);
  const sized = useSized();
  return useMemo(() => {
    const model = jobModel(sized, []);
    const demand = isFailure(model) ? null : { rpm: model.rpm, massFlow_kgps: model.demand_kgps };
    return { cylinders: engine.cylinders, idle_rpm: engine.idle_rpm, gearbox, demand };
  }, [engine, gearbox, sized]);
}

/** What every log says by itself, by run id, as the worker gets to it. */
export function useLooks(
  api: Remote<LogApi> | null,
  logs: readonly StoredRun[],
): { looks: ReadonlyMap<string, LogLook>; wrong: string | null } {
  const car = useLoggedCar();
  const [looks, setLooks] = useState<ReadonlyMap<string, LogLook>>(new Map());
  const [wrong, setWrong] = useState<string | null>(null);
  const tries = useAgain(wrong !== null);
  const got = useRef<{ logs: readonly StoredRun[]; car: LoggedCar; ids: Set<string> }>({ logs, car, ids: new Set() });
  useEffect(() => {
    if (!api) return;
    let current = true;
    // Asked again, only those are read that could not be.
    if (got.current.logs !== logs || got.current.car !== car) got.current = { logs, car, ids: new Set() };
    const { ids } = got.current;
    void (async () => {
      let away = false;
      for (const run of logs) {
        if (ids.has(run.id)) continue;
        try {
          const look = await api.look(run, car);
          if (!current) return;
          ids.add(run.id);
          setLooks((m) => new Map(m).set(run.id, look));
        } catch {
          away = true;
          if (current) setWrong(AWAY);
        }
      }
      if (current && !away) setWrong(null);
    })();
    return () => {
      current = false;
    };
  }, [api, logs, car, tries]);
  return { looks, wrong };
}

/** The chosen columns of a log ready to be drawn, as they come in. */
export function useDrawn(
  api: Remote<LogApi> | null,
  run: StoredRun | null,
  columns: readonly number[],
): { traces: ReadonlyMap<number, DrawnTrace>; wrong: string | null } {
  const [state, setState] = useState<{ key: string; traces: ReadonlyMap<number, DrawnTrace> }>({ key: '', traces: new Map() });
  const [wrong, setWrong] = useState<string | null>(null);
  const tries = useAgain(wrong !== null);
  const asked = useRef(new Set<string>());
  const key = run ? `${run.id}/${JSON.stringify(run.doc.channels)}` : '';
  useEffect(() => {
    if (!api || !run) return;
    for (const column of columns) {
      const id = `${key}/${column}`;
      if (asked.current.has(id)) continue;
      asked.current.add(id);
      api
        .drawn(run, column)
        .then((trace) => {
          setState((s) => ({ key, traces: new Map(s.key === key ? s.traces : []).set(column, trace) }));
          setWrong(null);
        })
        .catch(() => {
          asked.current.delete(id);
          setWrong(AWAY);
        });
    }
  }, [api, run, columns, key, tries]);
  return { traces: state.key === key ? state.traces : NOTHING, wrong };
}

const NOTHING: ReadonlyMap<number, DrawnTrace> = new Map();
