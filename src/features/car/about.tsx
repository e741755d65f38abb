'use client';

import { DeleteOutlined, PlusOutlined } from '@ant-design/icons';
import { App, Button, Checkbox, Input, Upload } from 'antd';
import Image from 'next/image';
import { MOST_PHOTOS, type AboutDoc, type AboutPart } from '@/core/documents/about';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop';
import { ControlRow } from '@/ui/field/field-row';
import { sendPicture } from '@/ui/send-picture';
import { useUndo } from '@/ui/undo';
import styles from './car.module.css';

const NAMES: Readonly<Record<AboutPart, string>> = {
  owner: 'owner',
  contact: 'contact',
  plate: 'plate or chassis',
  mileage: 'mileage',
  photos: 'pictures',
};

function TextField({
  label,
  path,
  value,
  maxLength,
  placeholder,
}: {
  label: string;
  path: string;
  value: string;
  maxLength: number;
  placeholder: string;
}) {
  const set = useJob((s) => s.set);
  return (
    <ControlRow label={label}>
      <Input aria-label={label} maxLength={maxLength} placeholder={placeholder} value={value} onChange={(e) => set(path, e.target.value)} />
    </ControlRow>
  );
}

function Pictures({ about }: { about: AboutDoc }) {
  const set = useJob((s) => s.set);
  const undo = useUndo();
  const { message } = App.useApp();
  const { photos } = about;
  const put = (next: AboutDoc['photos']): void => set('about.photos', next);
  return (
    <>
      <ul className={styles['snaps']}>
        {photos.map((p, i) => (
          <li key={`${p.hash}${i}`}>
            <Image src={`/api/files/${p.hash}`} alt={p.caption || `Picture ${i + 1} of this car`} width={132} height={88} unoptimized />
            <Input
              size="small"
              aria-label={`Caption of picture ${i + 1}`}
              placeholder="what it shows"
              maxLength={120}
              value={p.caption}
              onChange={(e) => put(photos.map((q, k) => (k === i ? { ...q, caption: e.target.value } : q)))}
            />
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined aria-hidden />}
              aria-label={`Remove picture ${i + 1}`}
              onClick={() => {
                put(photos.filter((_, k) => k !== i));
                undo('Picture removed.', () => put(photos));
              }}
            />
          </li>
        ))}
      </ul>
      {photos.length < MOST_PHOTOS && (
        <Upload
          accept="image/png,image/jpeg,image/webp"
          multiple
          showUploadList={false}
          customRequest={({ file, onSuccess, onError }) => {
            sendPicture(file as Blob)
              .then((hash) => {
                onSuccess?.({ hash });
              })
              .catch((e: Error) => {
                void message.error(e.message);
                onError?.(e);
              });
          }}
          onChange={({ file }) => {
            const answer = file.response as { hash?: string } | undefined;
            if (file.status === 'done' && answer?.hash) put([...photos, { hash: answer.hash, caption: '' }].slice(0, MOST_PHOTOS));
          }}
        >
          <Button size="small" icon={<PlusOutlined aria-hidden />}>
            Add a picture
          </Button>
        </Upload>
      )}
    </>
  );
}

/** Whose car it is and which: all optional; on the customer's page only what is ticked. */
export function About() {
  const about = useJob((s) => s.doc.about);
  const set = useJob((s) => s.set);
  const said = [about.owner, about.plate].filter(Boolean).join(', ');
  const has: Readonly<Record<AboutPart, boolean>> = {
    owner: about.owner !== '',
    contact: about.contact !== '',
    plate: about.plate !== '',
    mileage: about.mileage_m !== null,
    photos: about.photos.length > 0,
  };
  const offered = (Object.keys(NAMES) as AboutPart[]).filter((key) => has[key]);
  return (
    <details className={styles['about']} open={said !== '' || undefined}>
      <summary>
        Owner and car <span className="quiet">{said || 'name, plate, mileage, pictures: all optional'}</span>
      </summary>
      <TextField label="Owner" path="about.owner" value={about.owner} maxLength={80} placeholder="name" />
      <TextField label="Contact" path="about.contact" value={about.contact} maxLength={120} placeholder="telephone or mail" />
      <TextField label="Plate or chassis" path="about.plate" value={about.plate} maxLength={40} placeholder="not said" />
      <DocField path="about.mileage_m" label="Mileage" measure="odometer" nullable placeholder="not said" />
      <Heading>Pictures</Heading>
      <Pictures about={about} />
      {offered.length > 0 && (
        <>
          <Heading>On the customer’s page</Heading>
          <Checkbox.Group
            className={styles['tells']!}
            value={about.onCustomersPage}
            options={offered.map((value) => ({ value, label: NAMES[value] }))}
            onChange={(list) => set('about.onCustomersPage', list)}
          />
        </>
      )}
    </details>
  );
}
