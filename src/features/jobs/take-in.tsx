'use client';

import { App, Button, Upload } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { send } from '@/ui/post';
import { uuid } from '@/ui/uuid';
import { msg } from './messages';

const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** A piece of work is asked after this often, ms. */
const ASK_ms = 400;
/** A server that took all of it knows the work by then. */
const UNKNOWN_ASKS = 8;
/** Work that waits for longer is ahead of much else, or nobody works: said, ms. */
const LONG_ms = 15_000;

interface TakenIn {
  readonly id: string;
  readonly name: string;
  readonly runs: number;
  readonly passes: number;
  readonly units: number;
}

interface WorkSeen {
  readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  readonly share: number;
  readonly result: TakenIn | null;
  readonly problem: { readonly message: string } | null;
}

const AWAY = 'The server is away; nothing was taken in. Try again when it is back.';
const STOPPED = 'Stopped; nothing was taken in.';

/**
 * Sends an archive as a piece of work of this name, its progress told. Resolves once the server has all of it: whether it took it
 * is to be asked where its answer was lost. Throws the sentence to show where it cannot have it.
 */
function sendPackage(file: File, work: string, onShare: (share: number) => void, signal: AbortSignal): Promise<void> {
  return new Promise((done, fail) => {
    let whole = false;
    const xhr = new XMLHttpRequest();
    xhr.open('POST', `/api/packages?work=${work}`);
    xhr.responseType = 'json';
    xhr.upload.onprogress = (e) => onShare(e.lengthComputable ? e.loaded / e.total : 0);
    xhr.upload.onload = () => (whole = true);
    xhr.onload = () => {
      if (xhr.status === 202) return done();
      const answer = xhr.response as { message?: string } | null;
      fail(new Error(answer?.message ?? 'The server could not take this job in.'));
    };
    xhr.onerror = () => (whole ? done() : fail(new Error(AWAY)));
    xhr.onabort = () => (whole ? done() : fail(new Error(STOPPED)));
    signal.addEventListener('abort', () => xhr.abort());
    xhr.send(file);
  });
}

/**
 * Follows the work to its end; resolves with what was taken in. A connection that breaks meanwhile changes nothing: it is asked
 * again. Work that the server does not know for some seconds after all of it was sent was not taken.
 */
async function follow(work: string, onSeen: (seen: WorkSeen) => void, signal: AbortSignal): Promise<TakenIn> {
  const stop = (): void => void send<WorkSeen>('DELETE', `/api/work/${work}`).catch(() => {});
  signal.addEventListener('abort', stop);
  for (let unknown = 0; ; await new Promise((done) => setTimeout(done, ASK_ms))) {
    // Once more at each turn: what is only now put on the queue has not heard of it.
    if (signal.aborted) stop();
    const seen = await send<WorkSeen>('GET', `/api/work/${work}`).catch((error: { status?: number }) => {
      if (error.status === 404) unknown += 1;
      // Signed out: asking again would say the same.
      else if (error.status && error.status >= 400 && error.status < 500) throw error as Error;
      return null;
    });
    if (unknown > UNKNOWN_ASKS) throw new Error(signal.aborted ? STOPPED : AWAY);
    if (seen?.state === 'done' && seen.result) return seen.result;
    if (seen?.state === 'failed') throw new Error(seen.problem?.message ?? 'The server could not take this job in.');
    if (seen?.state === 'cancelled') throw new Error(STOPPED);
    if (seen) onSeen(seen);
  }
}

/** Takes a whole job in from its archive, as another installation wrote it. */
export function TakeIn() {
  const router = useRouter();
  const { message } = App.useApp();
  const [running, setRunning] = useState<{ says: string; ending: AbortController } | null>(null);
  const take = async (file: File): Promise<void> => {
    const ending = new AbortController();
    const say = (says: string): void => setRunning({ says, ending });
    const sending = (share: number): void => say(`Sending, ${percent(share)}. Stop`);
    sending(0);
    try {
      const work = uuid();
      await sendPackage(file, work, sending, ending.signal);
      const sent = performance.now();
      const taken = await follow(
        work,
        ({ state, share }) => {
          if (state !== 'waiting') return say(`Taking it in, ${percent(share)}. Stop`);
          say(performance.now() - sent < LONG_ms ? 'Waiting for its turn. Stop' : 'Still waiting: no worker has taken it yet. Stop');
        },
        ending.signal,
      );
      void message.success(
        `${taken.name} is here: ${taken.runs} runs, ${taken.passes} passes${taken.units > 0 ? `, ${taken.units} new on the shelf` : ''}.`,
      );
      router.push(`/jobs/${taken.id}/car`);
    } catch (error) {
      void message.error((error as Error).message, 8);
    }
    setRunning(null);
  };
  return (
    <>
      {running ? (
        <Button onClick={() => running.ending.abort()}>{running.says}</Button>
      ) : (
        <Upload
          accept=".zip"
          showUploadList={false}
          data-testid="package"
          beforeUpload={(file) => {
            void take(file);
            return false;
          }}
        >
          <Button>{msg.importAJob}</Button>
        </Upload>
      )}
    </>
  );
}
