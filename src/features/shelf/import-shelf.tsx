'use client';

import { Button, Input, Segmented } from 'antd';
import { useMemo, useState, type DragEvent } from 'react';
import type { UnitDoc } from '@/core/documents/unit';
import { formatQuantity } from '@/core/units/quantity';
import { TABLE_FILES, plainTextOf, tableTextOf } from '@/ui/file-text';
import { ColumnsRead } from '@/ui/columns-read';
import { usePrefs } from '@/ui/theme/prefs';
import { readShelf, usualText } from './read-shelf';
import { SHAPE_WORDS } from './unit-editor';
import styles from './shelf.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const MOST_ROWS = 60;
type KnownRows = 'leave out' | 'add beside';

type Read = ReturnType<typeof readShelf>;

/** What a file's columns were taken for, and what was not in it. */
function HowRead({ read }: { read: Read }) {
  return (
    <>
      {read.refused && (
        <p role="alert" className={styles['wrong']}>
          {read.refused}
        </p>
      )}
      <ColumnsRead unused={read.unknown} assumed={read.assumed} />
      {read.usual.length > 0 && (
        <p>
          {msg.notInTheFileTakenAsUsual} {usualText(read)}. {msg.correctThemHereOrOnTheShelf}
        </p>
      )}
    </>
  );
}

/** The rows of a file: those that cannot be taken with their reasons, then those that can. */
function Rows({ read, isTaken }: { read: Read; isTaken: (row: Read['good'][number]) => boolean }) {
  const { pack } = usePrefs();
  return (
    <>
      {read.bad.length > 0 && (
        <>
          <h3 className={styles['count']}>
            {msg.notImported} {read.bad.length}
          </h3>
          <table className="plain">
            <tbody>
              {read.bad.slice(0, MOST_ROWS).map((b) => (
                <tr key={b.row}>
                  <td className="num">
                    {msg.row} {b.row}
                  </td>
                  <td>{b.name || '(no name)'}</td>
                  <td className={styles['wrong']}>{b.reasons.join('; ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {read.good.length > 0 && (
        <>
          <h3 className={styles['count']}>
            {msg.canBeTaken} {read.good.length}
          </h3>
          <div className={styles['scroll']}>
            <table className="plain">
              <tbody>
                {read.good.map((g) => (
                  <tr key={g.row} data-out={!isTaken(g)}>
                    <td className="num">
                      {msg.row} {g.row}
                    </td>
                    <td>{g.doc.name}</td>
                    <td>{SHAPE_WORDS[g.doc.throttle.shape]}</td>
                    <td className="num">{formatQuantity(g.doc.throttle.bore_m, 'bore', pack)}</td>
                    <td className="quiet">{g.known ? 'on the shelf already' : ''}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </>
  );
}

/** A shelf from a file: what can be taken and what cannot, seen and said before anything is. */
export function ImportShelf({
  existing,
  onTake,
  onClose,
}: {
  existing: readonly string[];
  onTake: (docs: readonly UnitDoc[]) => Promise<unknown>;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [known, setKnown] = useState<KnownRows>('leave out');
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const read = useMemo(() => (text === '' ? null : readShelf(text, existing)), [text, existing]);
  const taken = (read?.good ?? []).filter((g) => known === 'add beside' || !g.known);
  const some = (read?.good ?? []).some((g) => g.known);
  const left = (read?.bad.length ?? 0) + ((read?.good.length ?? 0) - taken.length);
  const open = (files: FileList | null): void => {
    const file = files?.[0];
    if (!file) return;
    setWrong(null);
    // What is text already is read here; whatever else a shelf may come in, the server opens.
    const content = /\.(csv|txt|json)$/i.test(file.name) ? plainTextOf(file).then((t) => t ?? tableTextOf(file)) : tableTextOf(file);
    void content.then(setText, (error: Error) => setWrong(error.message));
  };
  const take = async (): Promise<void> => {
    setBusy(true);
    try {
      await onTake(taken.map((g) => g.doc));
      onClose();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : 'The server could not take them.');
      setBusy(false);
    }
  };
  return (
    <Dialog
      open
      title={msg.throttleBodiesFromAFile}
      width={760}
      onCancel={onClose}
      onOk={() => void take()}
      confirmLoading={busy}
      okText={taken.length === 0 ? 'Nothing to take' : `Put ${taken.length} on the shelf${left > 0 ? `, leave ${left} out` : ''}`}
      okButtonProps={{ disabled: taken.length === 0 }}
    >
      <div
        className={styles['drop']}
        onDragOver={(e: DragEvent) => e.preventDefault()}
        onDrop={(e: DragEvent) => {
          e.preventDefault();
          open(e.dataTransfer.files);
        }}
      >
        <label className={styles['choose']}>
          {msg.chooseOrDropACsvOr}
          <input type="file" accept={TABLE_FILES} aria-label={msg.shelfFile} onChange={(e) => open(e.target.files)} />
        </label>
        <Input.TextArea
          aria-label={msg.orPasteHere}
          rows={3}
          placeholder={msg.orPasteRowsWithTheirHeader}
          value={text}
          onChange={(e) => {
            setWrong(null);
            setText(e.target.value);
          }}
        />
      </div>
      {wrong && (
        <p role="alert" className={styles['wrong']}>
          {wrong}
        </p>
      )}
      {read && <HowRead read={read} />}
      {some && (
        <div className={styles['tools']}>
          <span>{msg.namesThatAreOnTheShelf}</span>
          <Segmented<KnownRows> size="small" value={known} onChange={setKnown} options={['leave out', 'add beside']} />
        </div>
      )}
      {read && <Rows read={read} isTaken={(g) => taken.includes(g)} />}
      {read === null && (
        <Button type="link" style={{ padding: 0 }} onClick={() => setText('name,bore (mm),shaft (mm),shaft edge,controls,price\r\n')}>
          {msg.startFromTheHeader}
        </Button>
      )}
    </Dialog>
  );
}
