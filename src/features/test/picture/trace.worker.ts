/** Follows a curve of a picture off the interface thread. */
import { expose } from 'comlink';
import { isPlane, planeOf, type Axes, type Pixel, type PlaneFault } from '@/core/picture/plane';
import { traceCurve, type Raster, type TracedCurve, type TraceOptions } from '@/core/picture/trace';

let raster: Raster | null = null;

const api = {
  /** Takes the picture once; curves are then asked for by their clicks. */
  take(picture: Raster): void {
    raster = picture;
  },
  trace(axes: Axes, click: Pixel, options: TraceOptions): TracedCurve | PlaneFault | null {
    const plane = planeOf(axes);
    if (!isPlane(plane)) return plane;
    return raster === null ? null : traceCurve(raster, plane, click, options);
  },
};
export type TraceApi = typeof api;
expose(api);
