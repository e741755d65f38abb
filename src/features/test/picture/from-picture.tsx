'use client';

import { Button, Segmented, Upload } from 'antd';
import { useState } from 'react';
import { pictureRunCsv, readingError_pct } from '@/core/picture/sheet-run';
import type { TracedCurve } from '@/core/picture/trace';
import { formatNumber } from '@/core/units/quantity';
import { unitById } from '@/core/units/units';
import { Dialog } from '@/ui/dialog';
import { PictureCanvas } from './canvas';
import { CurveFields, UNSAID } from './curve-fields';
import { msg } from './messages';
import styles from './picture.module.css';
import { POINTS, useMarking, type Marking } from './use-marking';
import { BareField } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { MARK_NAMES } from './use-picture';

/** The four points with what they are worth, corners for a slant, and how the curve is read. */
function MarkFields({ marking }: { marking: Marking }) {
  const { marks, values, putting } = marking;
  return (
    <>
      {MARK_NAMES.map((name) => (
        <div key={name} className={styles['point']}>
          <Button size="small" type={putting === name ? 'primary' : 'default'} onClick={() => marking.choose(name)}>
            {name.charAt(0)}
            {name.charAt(1) === '1' ? '₁' : '₂'}
          </Button>
          <BareField
            width="100%"
            label={`Value of ${name}`}
            measure="axis"
            placeholder={POINTS[name]}
            value={values[name]}
            within={{}}
            onChange={(v) => marking.worth(name, v)}
            onClear={() => marking.worth(name, null)}
          />
        </div>
      ))}
      <div>
        <Button size="small" onClick={marking.cornersAnew}>
          {marks.corners.length === 4 ? 'Corners put: put them anew' : 'Taken at a slant: put four corners'}
        </Button>
      </div>
      <Segmented<'curve' | 'point'>
        size="small"
        aria-label={msg.howTheCurveIsRead}
        value={putting === 'point' ? 'point' : 'curve'}
        options={[
          { value: 'curve', label: msg.byItsColour },
          { value: 'point', label: msg.byPoints },
        ]}
        onChange={marking.readBy}
      />
    </>
  );
}

/** What was read off the picture, and how well. */
function Reading({ curve, unit }: { curve: TracedCurve; unit: string | null }) {
  const error = readingError_pct(curve);
  if (error === null) return null;
  return (
    <p>
      {msg.readFrom} {formatNumber(curve.points[0]!.x, 0)} {msg.to} {formatNumber(curve.points.at(-1)!.x, 0)} {msg.rpmUpTo}{' '}
      {formatNumber(Math.max(...curve.points.map((p) => p.y)), 1)}
      {unit === null ? ' of the axis' : ` ${unitById(unit).label}`}
      {msg.thePicturesResolutionLeaves} {formatNumber(2 * error, 1)} {msg.whichWillWidenEveryAnswerThis}
      {curve.gaps.length > 0 &&
        ` Out of sight, and left out: ${curve.gaps.map(([a, b]) => `${formatNumber(a, 0)} to ${formatNumber(b, 0)} rpm`).join(', ')}.`}
    </p>
  );
}

const Wrong = ({ children }: { children: string | null }) =>
  children === null ? null : (
    <p role="alert" className={styles['wrong']}>
      {children}
    </p>
  );

/** A power curve off a photo or a scan: its axes put, a curve traced, laid over the picture, and named; then it is a run. */
export function FromPicture({ file, onTake, onClose }: { file?: File | undefined; onTake: (file: File) => void; onClose: () => void }) {
  const marking = useMarking();
  const { picture, curve, wrong, open } = marking;
  const [begun, setBegun] = useState(false);
  const [is, setIs] = useState(UNSAID);
  if (file && !begun) {
    setBegun(true);
    void open(file);
  }
  const take = (): void => {
    const { quantity, unit, at, carried } = is;
    if (!picture || !curve || unit === null || at === null || carried === null) return;
    const text = pictureRunCsv(curve, { picture: picture.name, quantity, unit: unitById(unit).label, at, carried });
    onTake(new File([text], `${picture.name.replace(/\.[^.]+$/, '')}, ${quantity}.txt`, { type: 'text/plain' }));
    onClose();
  };
  return (
    <FieldGroup>
      {(unread) => (
        <Dialog
          open
          width={1080}
          title={msg.fromAPicture}
          okText={msg.takeItAsARun}
          okButtonProps={{ disabled: unread || !curve || Object.values(is).includes(null) }}
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
              <Wrong>{wrong}</Wrong>
            </>
          ) : (
            <div className={styles['columns']}>
              <PictureCanvas
                picture={picture}
                marks={marking.marks}
                axes={marking.axes}
                curve={curve}
                putting={marking.putting}
                onPut={marking.put}
              />
              <div className={styles['steps']}>
                <p role="status" aria-live="polite">
                  {marking.says}
                </p>
                <MarkFields marking={marking} />
                <CurveFields is={is} onChange={setIs} />
                {curve && <Reading curve={curve} unit={is.unit} />}
                <Wrong>{wrong}</Wrong>
              </div>
            </div>
          )}
        </Dialog>
      )}
    </FieldGroup>
  );
}
