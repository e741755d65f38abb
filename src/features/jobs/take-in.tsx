'use client';

import { App, Button, Upload } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { msg } from './messages';

interface TakenIn {
  readonly id: string;
  readonly name: string;
  readonly runs: number;
  readonly passes: number;
  readonly units: number;
}

/** Sends an archive with its progress told; resolves with what was taken in, or throws the sentence to show. */
function sendPackage(file: File, onShare: (share: number) => void, signal: AbortSignal): Promise<TakenIn> {
  return new Promise((done, fail) => {
    const xhr = new XMLHttpRequest();
    xhr.open('POST', '/api/packages');
    xhr.responseType = 'json';
    xhr.upload.onprogress = (e) => onShare(e.lengthComputable ? e.loaded / e.total : 0);
    xhr.onload = () => {
      const answer = xhr.response as (TakenIn & { message?: string }) | null;
      if (xhr.status === 201 && answer) done(answer);
      else fail(new Error(answer?.message ?? 'The server could not take this job in.'));
    };
    xhr.onerror = () => fail(new Error('The server is away; nothing was taken in. Try again when it is back.'));
    xhr.onabort = () => fail(new Error('Stopped; nothing was taken in.'));
    signal.addEventListener('abort', () => xhr.abort());
    xhr.send(file);
  });
}

/** Takes a whole job in from its archive, as another installation wrote it. */
export function TakeIn() {
  const router = useRouter();
  const { message } = App.useApp();
  const [running, setRunning] = useState<{ share: number; stop: AbortController } | null>(null);
  const take = async (file: File): Promise<void> => {
    const stop = new AbortController();
    setRunning({ share: 0, stop });
    try {
      const taken = await sendPackage(file, (share) => setRunning({ share, stop }), stop.signal);
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
        <Button onClick={() => running.stop.abort()}>
          {running.share < 1 ? `Sending, ${Math.round(100 * running.share)} %. Stop` : 'Taking it in… Stop'}
        </Button>
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
