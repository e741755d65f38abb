import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { step, term } from '@/core/working/working';
import { PrefsProvider } from '../theme/prefs';
import { Num, WorkingProvider } from './provider';
import { Steps } from './steps';

const working = () => ({
  title: 'What the engine needs',
  steps: [
    step(
      'demand',
      [term(String.raw`\eta_a`, 'volumetric efficiency', 0.86, 'fineShare', 'assumed')],
      term(String.raw`\dot m`, 'needs', 0.16, 'massFlow'),
    ),
  ],
  notes: ['A note.'],
});

it('shows formula, what was put in, where it came from and the result, in the reader’s units', () => {
  render(
    <PrefsProvider pack="us" theme="light">
      <Steps working={working()} />
    </PrefsProvider>,
  );
  expect(screen.getByText('Air the engine needs')).toBeInTheDocument();
  expect(screen.getByText('assumed')).toBeInTheDocument();
  expect(screen.getByText('86.0 %')).toBeInTheDocument();
  expect(screen.getByText('282 cfm')).toBeInTheDocument();
  expect(screen.getByText('A note.')).toBeInTheDocument();
  expect(document.querySelector('.katex')).not.toBeNull();
});

it('opens behind the number', async () => {
  render(
    <PrefsProvider pack="metric" theme="light">
      <WorkingProvider>
        <Num label="engine needs" working={working}>
          576 kg/h
        </Num>
      </WorkingProvider>
    </PrefsProvider>,
  );
  await userEvent.click(screen.getByRole('button', { name: /, engine needs: show the working$/ }));
  await waitFor(() => expect(screen.getByText('What the engine needs')).toBeInTheDocument());
});
