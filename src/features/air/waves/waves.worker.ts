/** Reckons single engine speeds of the unsteady inlet off the interface thread. Ended and begun anew to be stopped. */
import { expose } from 'comlink';
import { waveModel } from '@/core/waves/engine';
import type { WaveResult } from '@/core/waves/result';
import type { WaveEngine } from '@/core/waves/input';

const api = {
  run: (engine: WaveEngine, rpm: number): WaveResult => waveModel(engine).run(rpm),
};
export type WavesApi = typeof api;
expose(api);
