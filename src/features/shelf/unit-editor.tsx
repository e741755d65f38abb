'use client';

import { App, Button, Input, Upload } from 'antd';
import Image from 'next/image';
import type { ControlKind, StoredUnit, UnitDoc } from '@/core/documents/unit';
import { CONTROL_KINDS } from '@/core/documents/kinds';
import { isUnmeasuredOval, reshaped } from '@/core/documents/reshape';
import { issuesOf } from '@/core/documents/issue';
import type { ThrottleDoc } from '@/core/documents/throttle';
import { FittingsFields } from '@/features/flange/fittings';
import { UnitFlange } from '@/features/flange/unit-flange';
import { LeakFields } from '@/features/job/leak-fields';
import type { MeasureName } from '@/core/units/measures';
import { Heading } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { FieldRow } from '@/ui/field/field-row';
import { issueText } from '@/core/documents/issue-text';
import { useChecks } from '@/ui/checks';
import { usePrefs } from '@/ui/theme/prefs';
import { sendPicture } from '@/ui/send-picture';
import styles from './shelf.module.css';
import { msg } from './messages';

export const CONTROL_WORDS: Readonly<Record<ControlKind, string>> = {
  cable: 'cable',
  'electronic-analogue': 'electronic, analogue',
  'electronic-digital': 'electronic, digital',
};
export const SHAPE_WORDS: Readonly<Record<ThrottleDoc['shape'], string>> = {
  single: 'one round bore',
  twin: 'two round bores',
  oval: 'oval',
  individual: 'one a cylinder',
};

/** What is wrong with the throttle, by path. */
function useIssues(doc: UnitDoc): (path: string, measure?: MeasureName) => string | undefined {
  const { pack } = usePrefs();
  const parsed = useChecks()?.unitDoc.safeParse(doc);
  const issues = parsed?.error ? issuesOf(parsed.error) : [];
  return (path, measure = 'count') => {
    const issue = issues.find((i) => i.path === path);
    return issue && issueText(issue, measure, pack);
  };
}

function Photo({ unit, onChange }: { unit: StoredUnit; onChange: (hash: string | null) => void }) {
  const { message } = App.useApp();
  const upload = async (file: Blob): Promise<void> => {
    try {
      onChange(await sendPicture(file));
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return (
    <div className={styles['photo']}>
      {unit.doc.photo ? (
        <Image src={`/api/files/${unit.doc.photo}`} alt={unit.doc.name} width={304} height={180} unoptimized />
      ) : (
        <span className="quiet">{msg.noPictureYet}</span>
      )}
      <div className={styles['tools']}>
        <Upload
          accept="image/png,image/jpeg,image/webp"
          showUploadList={false}
          beforeUpload={(file) => {
            void upload(file);
            return false;
          }}
        >
          <Button size="small">{unit.doc.photo ? 'Another picture' : 'Add a picture'}</Button>
        </Upload>
        {unit.doc.photo && (
          <Button size="small" type="text" onClick={() => onChange(null)}>
            {msg.removeIt}
          </Button>
        )}
      </div>
    </div>
  );
}

/** One throttle body, edited in place; every change is saved by itself. */
export function UnitEditor({ unit, onChange }: { unit: StoredUnit; onChange: (doc: UnitDoc) => void }) {
  const { doc } = unit;
  const t = doc.throttle;
  const issueAt = useIssues(doc);
  const setThrottle = (throttle: ThrottleDoc): void => onChange({ ...doc, throttle });
  const length = (key: 'bore_m' | 'width_m' | 'height_m' | 'shaft_m', label: string) => (
    <FieldRow
      label={label}
      measure="bore"
      value={t[key] ?? null}
      wrong={issueAt(`throttle.${key}`, 'bore')}
      onChange={(v) => setThrottle({ ...t, [key]: v })}
    />
  );
  const nullable = (key: 'price' | 'largestOpening_m', label: string, measure: MeasureName, placeholder: string) => (
    <FieldRow
      label={label}
      measure={measure}
      value={doc[key]}
      placeholder={placeholder}
      wrong={issueAt(key, measure)}
      onChange={(v) => onChange({ ...doc, [key]: v })}
      onClear={() => onChange({ ...doc, [key]: null })}
    />
  );
  return (
    <div key={unit.id}>
      <Heading>{msg.throttleBody2}</Heading>
      <Input
        aria-label={msg.name}
        value={doc.name}
        maxLength={80}
        status={issueAt('name') ? 'error' : ''}
        onChange={(e) => onChange({ ...doc, name: e.target.value })}
      />
      {issueAt('name') && (
        <p role="alert" className={styles['wrong']}>
          {issueAt('name')}
        </p>
      )}
      <ChoiceField
        label={msg.shape}
        value={t.shape}
        options={Object.entries(SHAPE_WORDS).map(([value, label]) => ({ value: value as ThrottleDoc['shape'], label }))}
        onChange={(shape) => setThrottle(reshaped(t, shape))}
      />
      {t.shape === 'oval' ? (
        <>
          {length('width_m', 'Width')}
          {length('height_m', 'Height')}
          {isUnmeasuredOval(t.bore_m, t) && <p className="quiet">{msg.ovalIsAGuess}</p>}
        </>
      ) : (
        length('bore_m', t.shape === 'single' ? 'Bore' : 'Bore of each')
      )}
      {(t.shape === 'twin' || t.shape === 'individual') && (
        <FieldRow
          label={msg.bores}
          measure="count"
          value={t.count}
          wrong={issueAt('throttle.count')}
          onChange={(count) => setThrottle({ ...t, count })}
        />
      )}
      {length('shaft_m', 'Shaft')}
      <ChoiceField
        label={msg.shaftIs}
        value={t.edge}
        options={[
          { value: 'round', label: msg.roundScrewHeads },
          { value: 'flattened', label: msg.flattened },
          { value: 'knife', label: msg.knifeEdged },
        ]}
        onChange={(edge) => setThrottle({ ...t, edge })}
      />
      <FieldRow
        label={msg.shutAt}
        measure="angle"
        value={t.closedAngle_rad}
        wrong={issueAt('throttle.closedAngle_rad', 'angle')}
        onChange={(v) => setThrottle({ ...t, closedAngle_rad: v })}
      />
      <LeakFields throttle={t} onChange={setThrottle} />
      <ChoiceField
        label={msg.controls2}
        value={doc.controls}
        options={CONTROL_KINDS.map((value) => ({ value, label: CONTROL_WORDS[value] }))}
        onChange={(controls) => onChange({ ...doc, controls })}
      />
      {nullable('largestOpening_m', 'Flange allows a manifold bore up to', 'bore', 'not yet')}
      {nullable('price', 'Price', 'money', 'not known')}
      <UnitFlange
        flange={doc.flange}
        bore_m={t.shape === 'oval' ? (t.width_m ?? t.bore_m) : t.bore_m}
        issueAt={(path, measure) => issueAt(`flange.${path}`, measure)}
        onChange={(flange) => onChange({ ...doc, flange })}
      />
      <Heading>{msg.joinedTo}</Heading>
      <FittingsFields
        fittings={doc.fittings}
        issueAt={(path, measure) => issueAt(`fittings.${path}`, measure)}
        onChange={(fittings) => onChange({ ...doc, fittings })}
      />
      <Heading>{msg.note2}</Heading>
      <Input.TextArea
        aria-label={msg.note2}
        rows={2}
        maxLength={2000}
        value={doc.note}
        onChange={(e) => onChange({ ...doc, note: e.target.value })}
      />
      <Heading>{msg.picture}</Heading>
      <Photo unit={unit} onChange={(photo) => onChange({ ...doc, photo })} />
    </div>
  );
}
