import { UPLOAD_LIMIT_BYTES, type RunSide, type StoredRun } from '@/core/documents/run';
import type { StoredUnit } from '@/core/documents/unit';
import type { JobFindings } from '@/core/job/findings';
import type { ImportReport } from '@/core/runs/read/reader';
import type { ImportEvent } from './import-stream';
import { refusalText } from './refusal-text';

const MEGABYTE = 1024 * 1024;

export interface Imported {
  readonly runs: readonly StoredRun[];
  readonly report: ImportReport;
  readonly findings: JobFindings | null;
  readonly known: boolean;
}

export interface Progress {
  readonly phase: 'sending' | 'reading' | 'storing';
  readonly share: number;
}

/** An import that ended without a run, with the sentence for it. */
export class ImportRefused extends Error {}

/** Sends the file's bytes with progress; fetch cannot tell how far an upload has come. */
function send(file: File, signal: AbortSignal, tell: (p: Progress) => void): Promise<{ hash: string }> {
  return new Promise((resolve, reject) => {
    const xhr = new XMLHttpRequest();
    xhr.open('POST', '/api/files');
    xhr.responseType = 'json';
    xhr.upload.onprogress = (e) => tell({ phase: 'sending', share: e.lengthComputable ? e.loaded / e.total : 0 });
    xhr.onload = () => {
      const answer = xhr.response as { hash: string; message?: string } | null;
      if (xhr.status < 300 && answer) resolve(answer);
      else reject(new ImportRefused(answer?.message ?? 'The server refused the file.'));
    };
    xhr.onerror = () => reject(new ImportRefused('The server is away; the file was not taken in. Drop it again when it is back.'));
    xhr.onabort = () => reject(new DOMException('cancelled', 'AbortError'));
    signal.addEventListener('abort', () => xhr.abort(), { once: true });
    xhr.send(file);
  });
}

async function* lines(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.pipeThrough(new TextDecoderStream() as TransformStream<Uint8Array, string>).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    const parts = (rest + (value ?? '')).split('\n');
    rest = parts.pop() ?? '';
    yield* parts.filter((l) => l !== '');
    if (done) return;
  }
}

/** Sends a file and has it read into the job. Throws ImportRefused with the sentence, or an AbortError when cancelled. */
export async function importFile(
  jobId: string,
  file: File,
  side: RunSide | null,
  signal: AbortSignal,
  tell: (p: Progress) => void,
): Promise<Imported> {
  if (file.size === 0) throw new ImportRefused(refusalText({ refused: 'empty_file' }));
  if (file.size > UPLOAD_LIMIT_BYTES) {
    throw new ImportRefused(
      `The file has ${Math.round(file.size / MEGABYTE)} MB; up to ${UPLOAD_LIMIT_BYTES / MEGABYTE} MB are taken in one go. Cut the log down to the pull, or export it with fewer channels.`,
    );
  }
  const { hash } = await send(file, signal, tell);
  const response = await fetch(`/api/jobs/${jobId}/runs`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ hash, fileName: file.name, side }),
    signal,
  });
  if (!response.ok || !response.body)
    throw new ImportRefused(((await response.json()) as { message?: string }).message ?? 'The server refused the file.');
  for await (const line of lines(response.body)) {
    const event = JSON.parse(line) as ImportEvent;
    if (event.event === 'reading') tell({ phase: 'reading', share: event.bytes / event.of });
    else if (event.event === 'storing') tell({ phase: 'storing', share: event.share });
    else if (event.event === 'refused') throw new ImportRefused(refusalText(event.refusal));
    else if (event.event === 'failed') throw new ImportRefused(event.message);
    else return event;
  }
  throw new ImportRefused('The server stopped in the middle of the file. Nothing of it was kept; drop it again.');
}

/** Which side a file's name speaks of, if it does: the word stock, or a unit's name. */
export function sideOfName(fileName: string, units: readonly StoredUnit[]): RunSide | null {
  const words = (text: string): string[] =>
    text
      .toLowerCase()
      .split(/[^a-z0-9]+/)
      .filter(Boolean);
  const name = words(fileName);
  const unit = units.find((u) => words(u.doc.name).every((w) => name.includes(w)));
  if (unit) return { kind: 'unit', unitId: unit.id };
  return name.includes('stock') ? { kind: 'stock' } : null;
}
