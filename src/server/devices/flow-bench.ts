import { setTimeout as wait } from 'node:timers/promises';
import { isFailure } from '@/core/failure';
import { FLOW_BENCH_RATE_Hz, flowBenchReadings, type FlowBenchReading, type FlowBenchSettings } from '@/core/stand-ins/flow-bench';
import { ServerProblem } from '../errors';
import type { Device } from './device';

async function* readings(settings: FlowBenchSettings, stop: AbortSignal): AsyncGenerator<FlowBenchReading> {
  const all = flowBenchReadings(settings);
  if (isFailure(all)) throw new ServerProblem(422, all.error, 'This part cannot be put on the bench as it is described.');
  for (const reading of all) {
    if (stop.aborted) return;
    yield reading;
    await wait(1000 / FLOW_BENCH_RATE_Hz, undefined, { signal: stop }).catch(() => {});
  }
}

/** The flow-bench stand-in, at the pace of a real one. */
export const flowBenchStandIn: Device<FlowBenchSettings, FlowBenchReading> = { name: 'flow bench', standIn: true, open: readings };
