'use client';

import { useEffect, useState } from 'react';
import { PICTURE_LIMIT_PIXELS } from '@/core/documents/picture-limit';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/kinds';
import { formatNumber } from '@/core/units/quantity';
import type { Space as Taken } from '@/server/space';
import { Pair } from '@/ui/answer/stop-page';
import { send } from '@/ui/post';
import { msg } from './messages';

const MB = 1024 * 1024;
/** Bytes as a person says them. */
export const sizeWords = (bytes: number): string =>
  bytes >= 1024 * MB
    ? `${formatNumber(bytes / (1024 * MB), 1)} GB`
    : bytes >= 10 * MB
      ? `${formatNumber(bytes / MB, 0)} MB`
      : `${formatNumber(bytes / MB, 1)} MB`;

const counted = (n: number, one: string, many: string): string => `${formatNumber(n, 0)} ${n === 1 ? one : many}`;

/** What the record takes, and how large what comes in may be. */
export function Space() {
  const [taken, setTaken] = useState<Taken | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    send<Taken>('GET', '/api/shop/space')
      .then((s) => current && setTaken(s))
      .catch((e: Error) => current && setWrong(e.message));
    return () => {
      current = false;
    };
  }, []);
  return (
    <>
      {wrong !== null && <p className="quiet">{wrong}</p>}
      {taken !== null && (
        <>
          <Pair name={msg.allOfIt}>
            <span>{sizeWords(taken.database_bytes)}</span>
          </Pair>
          <Pair name={msg.files}>
            <span>
              {counted(taken.files.count, 'file', 'files')}, {sizeWords(taken.files.bytes)} {msg.asTheyCame}
            </span>
          </Pair>
          <Pair name={msg.runsAndLogs}>
            <span>
              {formatNumber(taken.recordings.count, 0)}, {counted(taken.recordings.rows, 'row', 'rows')}
            </span>
          </Pair>
          <Pair name={msg.jobs}>
            <span>
              {formatNumber(taken.jobs, 0)}
              {taken.trashed > 0 && `, ${formatNumber(taken.trashed, 0)} of them in the trash`}
            </span>
          </Pair>
        </>
      )}
      <Pair name={msg.largestFile}>
        <span>{sizeWords(UPLOAD_LIMIT_BYTES)}</span>
      </Pair>
      <Pair name={msg.largestPicture}>
        <span>{formatNumber(PICTURE_LIMIT_PIXELS / 1e6, 0)} megapixels</span>
      </Pair>
      {taken !== null && (
        <p className="quiet">{`A file that nothing points at goes after ${taken.sweptAfter_days} days; the disk is the only bound for the whole.`}</p>
      )}
    </>
  );
}
