import { UPLOAD_LIMIT_BYTES } from '@/core/documents/kinds';
import { importFile, ImportRefused, type Progress } from './import-file';
import type { ImportEvent } from '@/core/verdict/imported';

/** An upload under the test's hand. */
class FakeXhr {
  static last: FakeXhr;
  static readonly all: FakeXhr[] = [];
  readonly upload: { onprogress?: (e: object) => void; onload?: () => void } = {};
  onprogress: () => void = () => {};
  onload: () => void = () => {};
  onerror: () => void = () => {};
  onabort: () => void = () => {};
  status = 200;
  responseText = '';
  address = '';
  sent: unknown = null;
  constructor() {
    FakeXhr.last = this;
    FakeXhr.all.push(this);
  }
  open(_method: string, address: string): void {
    this.address = address;
  }
  send(body: unknown): void {
    this.sent = body;
  }
  abort(): void {
    this.onabort();
  }
  /** A piece of the answer, wherever it was cut. */
  hear(text: string): void {
    this.responseText += text;
    this.onprogress();
  }
}

const file = new File(['rpm,power\n1,2\n'], 'stock 1.csv', { type: 'text/csv' });
const line = (event: ImportEvent): string => `${JSON.stringify(event)}\n`;
const done = { event: 'done', runs: [], report: {}, findings: null, known: false } as unknown as ImportEvent;

let told: Progress[];
const start = (side: Parameters<typeof importFile>[2] = null, stop = new AbortController()) => ({
  stop,
  ending: importFile('job-1', file, side, stop.signal, (p) => told.push(p)),
});

beforeEach(() => {
  told = [];
  FakeXhr.all.length = 0;
  globalThis.XMLHttpRequest = FakeXhr as unknown as typeof XMLHttpRequest;
});

it('tells how far it has come, wherever the answer is cut, and ends with the runs', async () => {
  const { ending } = start({ kind: 'unit', unitId: 'u1' });
  const xhr = FakeXhr.last;
  expect(xhr.address).toBe('/api/imports?job=job-1&fileName=stock+1.csv&side=u1');
  expect(xhr.sent).toBe(file);
  xhr.upload.onprogress!({ lengthComputable: true, loaded: 25, total: 100 });
  xhr.upload.onload!();
  const text = line({ event: 'storing', share: 0.5 }) + line(done);
  xhr.hear(text.slice(0, 9));
  xhr.hear(text.slice(9, 60));
  xhr.hear(text.slice(60));
  xhr.onload();
  expect(await ending).toMatchObject({ known: false, runs: [] });
  expect(told).toEqual([
    { phase: 'sending', share: 0.25 },
    { phase: 'reading', share: null },
    { phase: 'storing', share: 0.5 },
  ]);
});

it('tells at most four times a second how much was sent: a page that draws itself anew takes time from the file', () => {
  const now = jest.spyOn(performance, 'now').mockReturnValue(1000);
  void start().ending.catch(() => {});
  const sent = (loaded: number, at_ms: number): void => {
    now.mockReturnValue(at_ms);
    FakeXhr.last.upload.onprogress!({ lengthComputable: true, loaded, total: 100 });
  };
  for (let k = 0; k <= 10; k += 1) sent(k * 10, 1000 + 50 * k);
  now.mockRestore();
  expect(told.map((p) => p.share)).toEqual([0, 0.5, 1]);
});

it('says which side it is only where that is known', () => {
  void start({ kind: 'stock' }).ending.catch(() => {});
  expect(FakeXhr.last.address).toMatch(/&side=stock$/);
  void start().ending.catch(() => {});
  expect(FakeXhr.last.address).not.toContain('side');
});

it('passes on why a file was refused, or what failed', async () => {
  const refused = start();
  FakeXhr.last.hear(line({ event: 'refused', refusal: { refused: 'no_numeric_column', line: 3, text: 'Dear shop' } }));
  await expect(refused.ending).rejects.toThrow(/No column of figures was found; line 3 is “Dear shop”/);
  const failed = start();
  FakeXhr.last.hear(line({ event: 'failed', message: 'The database cannot be reached just now.' }));
  await expect(failed.ending).rejects.toThrow('The database cannot be reached just now.');
});

it.each([
  [413, JSON.stringify({ message: 'The file is larger than is taken.' }), 'The file is larger than is taken.'],
  [502, '<html>', 'The server refused the file.'],
  [200, line({ event: 'storing', share: 0.9 }), 'The server stopped in the middle of the file.'],
])('an answer of %d that is no end of an import is one with a sentence', async (status, text, words) => {
  const { ending } = start();
  FakeXhr.last.status = status;
  FakeXhr.last.hear(text);
  FakeXhr.last.onload();
  await expect(ending).rejects.toThrow(words);
});

it('a server that is away is said to be, and a cancelled import is cancelled', async () => {
  const away = start();
  FakeXhr.last.onerror();
  await expect(away.ending).rejects.toThrow(/server is away/);
  const cancelled = start();
  cancelled.stop.abort();
  await expect(cancelled.ending).rejects.toMatchObject({ name: 'AbortError' });
});

it('does not send what it knows will be refused', async () => {
  const none = new AbortController().signal;
  await expect(importFile('j', new File([], 'x.csv'), null, none, () => {})).rejects.toThrow(/The file is empty/);
  const huge = Object.defineProperty(new File(['x'], 'x.csv'), 'size', { value: UPLOAD_LIMIT_BYTES + 1 });
  await expect(importFile('j', huge, null, none, () => {})).rejects.toBeInstanceOf(ImportRefused);
  expect(FakeXhr.all).toEqual([]);
});
