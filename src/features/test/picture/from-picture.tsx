'use client';

import { Button, InputNumber, Select, Segmented, Upload } from 'antd';
import { useState } from 'react';
import type { RunDoc } from '@/core/documents/run';
import { CARRIED_CORRECTIONS } from '@/core/documents/kinds';
import { isPlane, pixelSize, planeOf, type Pixel } from '@/core/picture/plane';
import { pictureRunCsv, readingError_pct } from '@/core/picture/sheet-run';
import type { TracedCurve } from '@/core/picture/trace';
import { formatNumber } from '@/core/units/quantity';
import { ownUnits, unitById } from '@/core/units/units';
import { ControlRow } from '@/ui/field/field-row';
import { PictureCanvas, type Putting } from './canvas';
import { axesOf, MARK_NAMES, NO_MARKS, usePicture, type MarkName, type Marks, type MarkValues } from './use-picture';
import styles from './picture.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const POINTS: Readonly<Record<MarkName, string>> = {
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

/** A power curve off a photo or a scan: its axes put, a curve traced, laid over the picture, and named; then it is a run. */
export function FromPicture({ file, onTake, onClose }: { file?: File | undefined; onTake: (file: File) => void; onClose: () => void }) {
  const { picture, curve, busy, wrong, open, trace, setCurve } = usePicture();
  const [begun, setBegun] = useState(false);
  const [marks, setMarks] = useState<Marks>(NO_MARKS);
  const [values, setValues] = useState<MarkValues>(NO_VALUES);
  const [putting, setPutting] = useState<Putting>('x1');
  const [hand, setHand] = useState<readonly Pixel[]>([]);
  const [quantity, setQuantity] = useState<'power' | 'torque'>('power');
  const [unit, setUnit] = useState<string | null>(null);
  const [at, setAt] = useState<RunDoc['measuredAt'] | null>(null);
  const [carried, setCarried] = useState<RunDoc['carried'] | null>(null);
  const axes = axesOf(marks, values);
  if (file && !begun) {
    setBegun(true);
    void open(file);
  }
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
  const named = unit !== null && at !== null && carried !== null;
  const take = (): void => {
    if (!picture || !curve || !named) return;
    const text = pictureRunCsv(curve, { picture: picture.name, quantity, unit: unitById(unit).label, at, carried });
    onTake(new File([text], `${picture.name.replace(/\.[^.]+$/, '')}, ${quantity}.txt`, { type: 'text/plain' }));
    onClose();
  };
  const error = curve ? readingError_pct(curve) : null;
  const says: Readonly<Record<Putting, string>> = {
    x1: `Click on the picture where the x axis says ${POINTS.x1}.`,
    x2: `Click where it says ${POINTS.x2}.`,
    y1: `Click on ${POINTS.y1}.`,
    y2: `Click on ${POINTS.y2}.`,
    corner: `Click on corner ${marks.corners.length + 1} of 4 of a rectangle on the sheet, clockwise from the top left.`,
    curve: axes ? 'Click once on the curve: it is followed by its colour.' : 'Say beside the picture what the four points are worth.',
    point: 'Click point after point along the curve.',
  };
  return (
    <Dialog
      open
      width={1080}
      title={msg.fromAPicture}
      okText={msg.takeItAsARun}
      okButtonProps={{ disabled: !curve || !named }}
      onOk={take}
      onCancel={onClose}
    >
      {!picture ? (
        <>
          <Upload.Dragger
            accept="image/png,image/jpeg,image/webp"
            showUploadList={false}
            beforeUpload={(chosen) => {
              void open(chosen);
              return false;
            }}
          >
            <p>{msg.dropAPhotoOrAScan}</p>
            <p className="quiet">{msg.itStaysInThisBrowserOnly}</p>
          </Upload.Dragger>
          {wrong && (
            <p role="alert" className={styles['wrong']}>
              {wrong}
            </p>
          )}
        </>
      ) : (
        <div className={styles['columns']}>
          <PictureCanvas picture={picture} marks={marks} axes={axes} curve={curve} putting={putting} onPut={put} />
          <div className={styles['steps']}>
            <p role="status" aria-live="polite">
              {busy ? 'Following the curve…' : says[putting]}
            </p>
            {MARK_NAMES.map((name) => (
              <div key={name} className={styles['point']}>
                <Button size="small" type={putting === name ? 'primary' : 'default'} onClick={() => setPutting(name)}>
                  {name.charAt(0)}
                  {name.charAt(1) === '1' ? '₁' : '₂'}
                </Button>
                <InputNumber
                  size="small"
                  aria-label={`Value of ${name}`}
                  placeholder={POINTS[name]}
                  style={{ width: '100%' }}
                  value={values[name]}
                  onChange={(v) => {
                    setCurve(null);
                    setValues({ ...values, [name]: v });
                  }}
                />
              </div>
            ))}
            <div>
              <Button
                size="small"
                onClick={() => {
                  setMarks({ ...marks, corners: [] });
                  setPutting('corner');
                }}
              >
                {marks.corners.length === 4 ? 'Corners put: put them anew' : 'Taken at a slant: put four corners'}
              </Button>
            </div>
            <Segmented
              size="small"
              aria-label={msg.howTheCurveIsRead}
              value={putting === 'point' ? 'point' : 'curve'}
              options={[
                { value: 'curve', label: msg.byItsColour },
                { value: 'point', label: msg.byPoints },
              ]}
              onChange={(v) => {
                setHand([]);
                setCurve(null);
                setPutting(v as Putting);
              }}
            />
            <ControlRow label={msg.theCurveIs}>
              <Select
                aria-label={msg.powerOrTorque}
                value={quantity}
                options={[
                  { value: 'power' as const, label: msg.power },
                  { value: 'torque' as const, label: msg.torque },
                ]}
                onChange={(q) => {
                  setQuantity(q);
                  setUnit(null);
                }}
              />
            </ControlRow>
            <ControlRow label={msg.inWord}>
              <Select
                aria-label={msg.unitOfTheCurve}
                placeholder={msg.whichUnit}
                value={unit}
                options={ownUnits(quantity).map((u) => ({ value: u.id, label: u.label }))}
                onChange={setUnit}
              />
            </ControlRow>
            <ControlRow label={msg.measuredAt}>
              <Select
                aria-label={msg.whereItWasMeasured}
                placeholder={msg.wheelsOrCrank}
                value={at}
                options={(['wheels', 'hub', 'crank', 'unknown'] as const).map((value) => ({
                  value,
                  label: value === 'unknown' ? 'not known' : value,
                }))}
                onChange={setAt}
              />
            </ControlRow>
            <ControlRow label={msg.correctedBy}>
              <Select
                aria-label={msg.correctionOfTheCurve}
                placeholder={msg.whichStandard}
                value={carried}
                options={CARRIED_CORRECTIONS.map((value) => ({
                  value,
                  label: value === 'none' ? 'none, as measured' : value === 'unknown' ? 'not known' : value,
                }))}
                onChange={setCarried}
              />
            </ControlRow>
            {curve && error !== null && (
              <p>
                {msg.readFrom} {formatNumber(curve.points[0]!.x, 0)} {msg.to} {formatNumber(curve.points.at(-1)!.x, 0)} {msg.rpmUpTo}{' '}
                {formatNumber(Math.max(...curve.points.map((p) => p.y)), 1)}
                {unit === null ? ' of the axis' : ` ${unitById(unit).label}`}
                {msg.thePicturesResolutionLeaves} {formatNumber(2 * error, 1)} {msg.whichWillWidenEveryAnswerThis}
                {curve.gaps.length > 0 &&
                  ` Out of sight, and left out: ${curve.gaps.map(([a, b]) => `${formatNumber(a, 0)} to ${formatNumber(b, 0)} rpm`).join(', ')}.`}
              </p>
            )}
            {wrong && (
              <p role="alert" className={styles['wrong']}>
                {wrong}
              </p>
            )}
          </div>
        </div>
      )}
    </Dialog>
  );
}
