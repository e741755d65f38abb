import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { runDoc, type RunDoc } from '@/core/documents/run';
import { loggedRun } from '../../../../test/logged-run';
import { renderJob } from '../../../../test/render-job';
import { RunRecord } from './run-record';

jest.mock('../dyno/use-preview', () => ({ usePreview: () => null }));

/** Hotter than any engine starts: such figures were taken in once. */
const made = loggedRun('r1', {});
const run = { ...made, doc: { ...made.doc, coolantStart_K: 900 } };

async function renamed(): Promise<RunDoc | null> {
  const kept: RunDoc[] = [];
  renderJob(<RunRecord run={run} onClose={() => {}} onSave={(d) => Promise.resolve(void kept.push(d))} />);
  const name = await screen.findByLabelText('Name of the run');
  await userEvent.clear(name);
  await userEvent.type(name, 'second pull');
  await userEvent.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(kept.length + screen.queryAllByRole('alert').length).toBeGreaterThan(0));
  return kept[0] ?? null;
}

it('a figure of an older day in a run’s record does not keep the rest of it from being changed', async () => {
  expect(runDoc.safeParse(run.doc).success).toBe(false);
  expect(await renamed()).toMatchObject({ name: 'second pull', coolantStart_K: 900 });
});
