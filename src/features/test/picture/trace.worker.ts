/** Follows a curve of a picture off the interface thread. */
import { expose } from 'comlink';
import { isPlane, planeOf, type Axes, type Pixel, type PlaneFault } from '@/core/picture/plane';
import { traceCurve, type Raster, type TracedCurve, type TraceOptions } from '@/core/picture/trace';

let taken: { readonly id: number; readonly raster: Raster } | null = null;

const api = {
  /** Takes a picture once; curves are then asked for by their clicks. */
  take(id: number, raster: Raster): void {
    taken = { id, raster };
  },
  /** The curve at a click on the picture of this id; 'not taken': another is here, or none, as in a worker that was begun anew. */
  trace(id: number, axes: Axes, click: Pixel, options: TraceOptions): TracedCurve | PlaneFault | 'not taken' | null {
    const plane = planeOf(axes);
    if (!isPlane(plane)) return plane;
    return taken?.id === id ? traceCurve(taken.raster, plane, click, options) : 'not taken';
  },
};
export type TraceApi = typeof api;
expose(api);
