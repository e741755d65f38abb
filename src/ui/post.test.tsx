import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderRoom } from '../../test/render-room';
import { saveFile } from './chart/save-file';
import { Refused, send } from './post';
import { useReported } from './reported';

const answering = (response: Partial<Response> | Error): jest.Mock => {
  const fetched = jest.fn((_url: string, _init?: RequestInit) =>
    response instanceof Error ? Promise.reject(response) : Promise.resolve({ ok: true, status: 200, ...response } as Response),
  );
  globalThis.fetch = fetched as unknown as typeof fetch;
  return fetched;
};
const refused = async (work: Promise<unknown>): Promise<Refused> => {
  const error: unknown = await work.then(
    () => null,
    (e: unknown) => e,
  );
  if (!(error instanceof Refused)) throw new Error('it was not refused');
  return error;
};

describe('send', () => {
  it('writes JSON and reads JSON', async () => {
    const fetched = answering({ json: () => Promise.resolve({ id: 7 }) });
    expect(await send('POST', '/api/units', { a: 1 })).toEqual({ id: 7 });
    expect(fetched.mock.calls[0]![1]).toMatchObject({ method: 'POST', body: '{"a":1}', headers: { 'content-type': 'application/json' } });
  });

  it('a question has no body', async () => {
    const fetched = answering({ json: () => Promise.resolve([]) });
    await send('GET', '/api/units');
    expect(fetched.mock.calls[0]![1]).not.toHaveProperty('body');
  });

  it('a refusal carries its words, its status and what came with it', async () => {
    answering({ ok: false, status: 409, json: () => Promise.resolve({ message: 'Somebody else saved this.', current: { version: 3 } }) });
    const error = await refused(send('PUT', '/x', {}));
    expect(error).toMatchObject({ message: 'Somebody else saved this.', status: 409, data: { current: { version: 3 } } });
  });

  it('a refusal without words still has some', async () => {
    answering({ ok: false, status: 500, json: () => Promise.reject(new Error('no json')) });
    expect((await refused(send('PUT', '/x', {}))).message).toBe('The server could not do this.');
  });

  it('a server that is away is told from one that refuses', async () => {
    answering(new TypeError('network'));
    const error = await refused(send('PUT', '/x', {}));
    expect(error.status).toBe(0);
    expect(error.message).toMatch(/kept here; try again/);
  });
});

describe('reported', () => {
  function Buttons({ work }: { work: () => Promise<unknown> }) {
    const reported = useReported();
    return <button onClick={() => void reported(work)}>try</button>;
  }
  const press = async (work: () => Promise<unknown>): Promise<void> => {
    renderRoom(<Buttons work={work} />);
    await userEvent.click(screen.getByRole('button', { name: 'try' }));
  };

  it('says what was done', async () => {
    await press(() => Promise.resolve('Kept.'));
    expect(await screen.findByText('Kept.')).toBeInTheDocument();
  });

  it('says what was refused', async () => {
    await press(() => Promise.reject(new Error('The name is taken.')));
    expect(await screen.findByText('The name is taken.')).toBeInTheDocument();
  });
});

it('a text is handed over as a file of its name and kind, and its address given back', () => {
  const made: Blob[] = [];
  const back = jest.fn();
  URL.createObjectURL = (blob: Blob) => (made.push(blob), 'blob:one');
  URL.revokeObjectURL = back;
  const clicked = jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    expect(this.download).toBe('remap.csv');
    expect(this.href).toBe('blob:one');
  });
  saveFile('remap.csv', 'a,b', 'text/csv');
  expect(clicked).toHaveBeenCalledTimes(1);
  expect(made[0]).toMatchObject({ type: 'text/csv', size: 3 });
  expect(back).toHaveBeenCalledWith('blob:one');
});
