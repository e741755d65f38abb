import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { PrefsProvider } from '@/ui/theme/prefs';
import { TakeIn } from './take-in';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }) }));

/** The browser's sender, driven by hand. */
class FakeRequest {
  static readonly sent: FakeRequest[] = [];
  upload: { onprogress?: (e: { lengthComputable: boolean; loaded: number; total: number }) => void } = {};
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
beforeEach(() => {
  push.mockReset();
  FakeRequest.sent.length = 0;
  globalThis.XMLHttpRequest = FakeRequest as unknown as typeof XMLHttpRequest;
});
afterEach(() => {
  globalThis.XMLHttpRequest = was;
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
  expect(request.address).toBe('POST /api/packages');
  expect(request.body).toBe(file);
  act(() => request.upload.onprogress!({ lengthComputable: true, loaded: 42, total: 100 }));
  expect(screen.getByRole('button', { name: 'Sending, 42 %. Stop' })).toBeInTheDocument();
  act(() => request.upload.onprogress!({ lengthComputable: true, loaded: 100, total: 100 }));
  expect(screen.getByRole('button', { name: 'Taking it in… Stop' })).toBeInTheDocument();
  act(() => request.answer(201, { id: 'job-9', name: 'Larkspur estate', runs: 8, passes: 12, units: 2 }));
  expect(await screen.findByText('Larkspur estate is here: 8 runs, 12 passes, 2 new on the shelf.')).toBeInTheDocument();
  expect(push).toHaveBeenCalledWith('/jobs/job-9/car');
  expect(screen.getByRole('button', { name: 'Import a job' })).toBeInTheDocument();
});

it('says nothing of units where the shelf had them all', async () => {
  const request = await choose();
  act(() => request.answer(201, { id: 'job-9', name: 'Pipit hatch', runs: 0, passes: 16, units: 0 }));
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

it('a server that is away is told', async () => {
  const request = await choose();
  act(() => request.onerror!());
  expect(await screen.findByText(/^The server is away; nothing was taken in/)).toBeInTheDocument();
});

it('is stopped by its own button', async () => {
  await choose();
  await userEvent.click(screen.getByRole('button', { name: 'Sending, 0 %. Stop' }));
  expect(await screen.findByText('Stopped; nothing was taken in.')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Import a job' })).toBeInTheDocument();
});
