'use client';

import { DeleteOutlined, PlusOutlined } from '@ant-design/icons';
import { App, Button, Checkbox, Input, Upload } from 'antd';
import Image from 'next/image';
import type { JobPlace } from '@/core/documents/place';
import type { AboutDoc, AboutPart } from '@/core/documents/about';
import { MOST_PHOTOS } from '@/core/documents/kinds';
import { DocField } from '@/features/job/field';
import { useJob, useJobStore } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { ControlRow } from '@/ui/field/field-row';
import { sendPicture } from '@/ui/send-picture';
import { useUndo } from '@/ui/undo';
import styles from './car.module.css';
import { msg } from './messages';

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
  path: JobPlace;
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
  const store = useJobStore();
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
              placeholder={msg.whatItShows}
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
          beforeUpload={(file) => {
            sendPicture(file).then(
              // Several may come in together: each is put behind what is there by then.
              (hash) => put([...store.getState().doc.about.photos, { hash, caption: '' }].slice(0, MOST_PHOTOS)),
              (e: Error) => void message.error(e.message),
            );
            return false;
          }}
        >
          <Button size="small" icon={<PlusOutlined aria-hidden />}>
            {msg.addAPicture}
          </Button>
        </Upload>
      )}
    </>
  );
}

/** The fields of owner and car, and what of them the customer is shown. */
export function AboutFields() {
  const about = useJob((s) => s.doc.about);
  const set = useJob((s) => s.set);
  const has: Readonly<Record<AboutPart, boolean>> = {
    owner: about.owner !== '',
    contact: about.contact !== '',
    plate: about.plate !== '',
    mileage: about.mileage_m !== null,
    photos: about.photos.length > 0,
  };
  const offered = (Object.keys(NAMES) as AboutPart[]).filter((key) => has[key]);
  return (
    <>
      <TextField label={msg.owner} path="about.owner" value={about.owner} maxLength={80} placeholder={msg.name} />
      <TextField label={msg.contact} path="about.contact" value={about.contact} maxLength={120} placeholder={msg.telephoneOrMail} />
      <TextField label={msg.plateOrChassis} path="about.plate" value={about.plate} maxLength={40} placeholder={msg.notSaid} />
      <DocField path="about.mileage_m" label={msg.mileage} measure="odometer" nullable placeholder={msg.notSaid} />
      <Heading>{msg.pictures}</Heading>
      <Pictures about={about} />
      {offered.length > 0 && (
        <>
          <Heading>{msg.onTheCustomersPage}</Heading>
          <Checkbox.Group
            className={styles['tells']!}
            value={about.onCustomersPage}
            options={offered.map((value) => ({ value, label: NAMES[value] }))}
            onChange={(list) => set('about.onCustomersPage', list)}
          />
        </>
      )}
    </>
  );
}
