'use client';

import { useState } from 'react';
import { isPlane, pixelSize, planeOf, type Pixel } from '@/core/picture/plane';
import type { TracedCurve } from '@/core/picture/trace';
import type { Putting } from './canvas';
import { axesOf, MARK_NAMES, NO_MARKS, usePicture, type MarkName, type Marks, type MarkValues } from './use-picture';

/** What each of the four points is. */
export const POINTS: Readonly<Record<MarkName, string>> = {
  x1: 'a low engine speed, rpm',
  x2: 'a high engine speed, rpm',
  y1: 'a low value of the curve’s axis',
  y2: 'a high value of the curve’s axis',
};
const NO_VALUES: MarkValues = { x1: null, x2: null, y1: null, y2: null };

const nextMark = (marks: Marks): Putting => MARK_NAMES.find((n) => marks[n] === null) ?? 'curve';

/** Points put on a curve by hand, as a curve: straight between them. */
function byHand(points: readonly Pixel[], axes: NonNullable<ReturnType<typeof axesOf>>): TracedCurve | null {
  const plane = planeOf(axes);
  if (!isPlane(plane) || points.length < 2) return null;
  const values = points.map((p) => plane.toValue(p)).sort((a, b) => a.x - b.x);
  const error = pixelSize(plane, points[0]!).y;
  return { points: values.filter((v, i) => i === 0 || v.x > values[i - 1]!.x), gaps: [], error, colour: [0, 0, 0] };
}

/** A picture, the points put on it, and the curve that they give. */
export function useMarking() {
  const { picture, curve, busy, wrong, open, trace, setCurve } = usePicture();
  const [marks, setMarks] = useState<Marks>(NO_MARKS);
  const [values, setValues] = useState<MarkValues>(NO_VALUES);
  const [putting, setPutting] = useState<Putting>('x1');
  const [hand, setHand] = useState<readonly Pixel[]>([]);
  const axes = axesOf(marks, values);
  const put = (pixel: Pixel): void => {
    if (putting === 'curve') {
      if (axes) void trace(axes, pixel);
      return;
    }
    if (putting === 'point') {
      const points = [...hand, pixel];
      setHand(points);
      if (axes) setCurve(byHand(points, axes));
      return;
    }
    setCurve(null);
    if (putting === 'corner') {
      const corners = [...marks.corners, pixel].slice(0, 4);
      setMarks({ ...marks, corners });
      if (corners.length === 4) setPutting(nextMark(marks));
      return;
    }
    const next = { ...marks, [putting]: pixel };
    setMarks(next);
    setPutting(nextMark(next));
  };
  /** What is to be put on the picture next. */
  const says: Readonly<Record<Putting, string>> = {
    x1: `Click on the picture where the x axis says ${POINTS.x1}.`,
    x2: `Click where it says ${POINTS.x2}.`,
    y1: `Click on ${POINTS.y1}.`,
    y2: `Click on ${POINTS.y2}.`,
    corner: `Click on corner ${marks.corners.length + 1} of 4 of a rectangle on the sheet, clockwise from the top left.`,
    curve: axes ? 'Click once on the curve: it is followed by its colour.' : 'Say beside the picture what the four points are worth.',
    point: 'Click point after point along the curve.',
  };
  return {
    picture,
    curve,
    wrong,
    open,
    marks,
    values,
    putting,
    axes,
    put,
    says: busy ? 'Following the curve…' : says[putting],
    choose: setPutting,
    worth: (name: MarkName, value: number | null): void => {
      setCurve(null);
      setValues({ ...values, [name]: value });
    },
    cornersAnew: (): void => {
      setMarks({ ...marks, corners: [] });
      setPutting('corner');
    },
    /** By its colour, or point after point. */
    readBy: (how: 'curve' | 'point'): void => {
      setHand([]);
      setCurve(null);
      setPutting(how);
    },
  };
}
export type Marking = ReturnType<typeof useMarking>;
