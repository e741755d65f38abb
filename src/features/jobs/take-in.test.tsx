import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { PrefsProvider } from '@/ui/theme/prefs';
import { TakeIn } from './take-in';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }) }));

/** The browser's sender, driven by hand. */
class FakeRequest {
  static readonly sent: FakeRequest[] = [];
  upload: { onprogress?: (e: { lengthComputable: boolean; loaded: number; total: number }) => void; onload?: () => void } = {};
  status = 0;
  response: unknown = null;
  responseType = '';
  address = '';
  body: unknown;
  onload?: () => void;
  onerror?: () => void;
  onabort?: () => void;
  open(method: string, url: string): void {
    this.address = `${method} ${url}`;
  }
  send(body: unknown): void {
    this.body = body;
    FakeRequest.sent.push(this);
  }
  abort(): void {
    this.onabort?.();
  }
  answer(status: number, response: unknown): void {
    this.status = status;
    this.response = response;
    this.onload?.();
  }
}

const was = globalThis.XMLHttpRequest;
/** What the server says of the piece of work, one answer after the other, the last for good; and what it was asked. */
let says: { status?: number; body: object }[] = [];
let asked: string[] = [];
const RUNS = { body: { state: 'running', share: 0.34, result: null, problem: null } };
const done = (result: object) => ({ body: { state: 'done', share: 1, result, problem: null } });
beforeEach(() => {
  push.mockReset();
  asked = [];
  globalThis.fetch = ((url: string, init: RequestInit) => {
    asked.push(`${init.method} ${url}`);
    const { status = 200, body } = init.method === 'GET' && says.length > 1 ? says.shift()! : says[0]!;
    if (status === 0) return Promise.reject(new TypeError('network'));
    return Promise.resolve({ ok: status < 400, status, json: () => Promise.resolve(body) } as Response);
  }) as typeof fetch;
  FakeRequest.sent.length = 0;
  globalThis.XMLHttpRequest = FakeRequest as unknown as typeof XMLHttpRequest;
});
const wasFetch = globalThis.fetch;
afterEach(() => {
  globalThis.XMLHttpRequest = was;
  globalThis.fetch = wasFetch;
});

const file = new File(['PK'], 'larkspur.zip', { type: 'application/zip' });
async function choose(): Promise<FakeRequest> {
  render(
    <PrefsProvider pack="metric" theme="light">
      <TakeIn />
    </PrefsProvider>,
  );
  fireEvent.change(screen.getByTestId('package'), { target: { files: [file] } });
  await waitFor(() => expect(FakeRequest.sent).toHaveLength(1));
  return FakeRequest.sent[0]!;
}

it('sends the archive as it is, tells how far it is, and opens the job with what came', async () => {
  const request = await choose();
  expect(request.address).toMatch(/^POST \/api\/packages\?work=[\da-f-]{36}$/);
  expect(request.body).toBe(file);
  act(() => request.upload.onprogress!({ lengthComputable: true, loaded: 42, total: 100 }));
  expect(screen.getByRole('button', { name: 'Sending, 42 %. Stop' })).toBeInTheDocument();
  act(() => request.upload.onprogress!({ lengthComputable: true, loaded: 100, total: 100 }));
  says = [
    { body: { state: 'waiting', share: 0, result: null, problem: null } },
    RUNS,
    // A connection that is away for a moment changes nothing.
    { status: 0, body: {} },
    done({ id: 'job-9', name: 'Larkspur estate', runs: 8, passes: 12, units: 2 }),
  ];
  act(() => request.answer(202, { work: 'w-1' }));
  expect(await screen.findByRole('button', { name: 'Waiting for its turn. Stop' })).toBeInTheDocument();
  expect(await screen.findByRole('button', { name: 'Taking it in, 34 %. Stop' })).toBeInTheDocument();
  expect(await screen.findByText('Larkspur estate is here: 8 runs, 12 passes, 2 new on the shelf.')).toBeInTheDocument();
  expect(push).toHaveBeenCalledWith('/jobs/job-9/car');
  expect(screen.getByRole('button', { name: 'Import a job' })).toBeInTheDocument();
});

it('says nothing of units where the shelf had them all', async () => {
  const request = await choose();
  says = [done({ id: 'job-9', name: 'Pipit hatch', runs: 0, passes: 16, units: 0 })];
  act(() => request.answer(202, { work: 'w-1' }));
  expect(await screen.findByText('Pipit hatch is here: 0 runs, 16 passes.')).toBeInTheDocument();
});

it('shows the server’s own reason for a refusal, and stays where it is', async () => {
  const request = await choose();
  act(() => request.answer(422, { message: 'The archive is of a later version than this installation. Update it first.' }));
  expect(await screen.findByText(/^The archive is of a later version/)).toBeInTheDocument();
  expect(push).not.toHaveBeenCalled();
});

it('an answer without words still says that nothing came of it', async () => {
  const request = await choose();
  act(() => request.answer(500, null));
  expect(await screen.findByText('The server could not take this job in.')).toBeInTheDocument();
});

it('what the worker finds wrong is told in its words, being signed out in the server’s; what nobody knows of was not taken', async () => {
  const request = await choose();
  const problem = { message: 'This is no job of Vanner: there is no job.json in it.' };
  says = [{ body: { state: 'failed', share: 0, result: null, problem } }];
  act(() => request.answer(202, { work: 'w-1' }));
  expect(await screen.findByText(problem.message)).toBeInTheDocument();
  says = [{ status: 401, body: { message: 'Sign in first.' } }];
  fireEvent.change(screen.getByTestId('package'), { target: { files: [file] } });
  await waitFor(() => expect(FakeRequest.sent).toHaveLength(2));
  act(() => FakeRequest.sent[1]!.answer(202, { work: 'w-2' }));
  expect(await screen.findByText('Sign in first.')).toBeInTheDocument();
  says = [{ status: 404, body: { message: 'This piece of work does not exist (any more).' } }];
  fireEvent.change(screen.getByTestId('package'), { target: { files: [file] } });
  await waitFor(() => expect(FakeRequest.sent).toHaveLength(3));
  act(() => FakeRequest.sent[2]!.answer(202, { work: 'w-2' }));
  expect(await screen.findByText(/^The server is away; nothing was taken in/)).toBeInTheDocument();
  expect(push).not.toHaveBeenCalled();
});

it('is stopped while it is worked on, too', async () => {
  const request = await choose();
  says = [RUNS];
  act(() => request.answer(202, { work: 'w-1' }));
  await userEvent.click(await screen.findByRole('button', { name: 'Taking it in, 34 %. Stop' }));
  expect(asked.some((a) => a.startsWith('DELETE /api/work/'))).toBe(true);
  says = [{ body: { state: 'cancelled', share: 0.4, result: null, problem: null } }];
  expect(await screen.findByText('Stopped; nothing was taken in.')).toBeInTheDocument();
});

it('a server that goes away while it is sent to took nothing in, and that is said', async () => {
  const request = await choose();
  says = [{ status: 0, body: {} }];
  act(() => request.onerror!());
  expect(await screen.findByText(/^The server is away; nothing was taken in/)).toBeInTheDocument();
});

it('one whose answer was lost is asked what became of it: it may have taken all of it in', async () => {
  const request = await choose();
  act(() => request.upload.onload!());
  says = [done({ id: 'job-9', name: 'Pipit hatch', runs: 0, passes: 16, units: 0 })];
  act(() => request.onerror!());
  expect(await screen.findByText('Pipit hatch is here: 0 runs, 16 passes.')).toBeInTheDocument();
});

it('one whose answer was lost and that knows nothing of it took nothing in', async () => {
  const request = await choose();
  act(() => request.upload.onload!());
  says = [{ status: 404, body: { message: 'This piece of work does not exist (any more).' } }];
  act(() => request.onerror!());
  expect(await screen.findByText(/^The server is away; nothing was taken in/)).toBeInTheDocument();
});

it('a stop after all of it was sent stops the work too, and says what became of it', async () => {
  const request = await choose();
  act(() => request.upload.onload!());
  says = [{ body: { state: 'cancelled', share: 0, result: null, problem: null } }];
  await userEvent.click(screen.getByRole('button', { name: /Stop$/ }));
  expect(await screen.findByText('Stopped; nothing was taken in.')).toBeInTheDocument();
  expect(asked.some((a) => a.startsWith('DELETE /api/work/'))).toBe(true);
});

it('is stopped by its own button', async () => {
  await choose();
  await userEvent.click(screen.getByRole('button', { name: 'Sending, 0 %. Stop' }));
  expect(await screen.findByText('Stopped; nothing was taken in.')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Import a job' })).toBeInTheDocument();
});
