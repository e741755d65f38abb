import { isFailure } from '@/core/failure';
import { FLOW_BENCH_RATE_Hz, flowBenchReadings, type FlowBenchReading, type FlowBenchSettings } from '@/core/stand-ins/flow-bench';
import { ServerProblem } from '../errors';
import { paced, type Device } from './device';

async function* readings(settings: FlowBenchSettings, signal: AbortSignal): AsyncGenerator<FlowBenchReading> {
  const all = flowBenchReadings(settings);
  if (isFailure(all)) throw new ServerProblem(422, all.error, 'This part cannot be put on the bench as it is described.');
  yield* paced(all, FLOW_BENCH_RATE_Hz, signal);
}

/** The flow-bench stand-in, at the pace of a real one. */
export const flowBenchStandIn: Device<FlowBenchSettings, FlowBenchReading> = { name: 'flow bench', standIn: true, open: readings };
