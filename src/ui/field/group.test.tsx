import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { PrefsProvider } from '../theme/prefs';
import { FieldRow } from './field-row';
import { FieldGroup } from './group';

function Reading() {
  const [p, setP] = useState(100_000);
  const [more, setMore] = useState(true);
  return (
    <PrefsProvider pack="metric" own={{}} theme="light">
      <FieldGroup>
        {(wrong) => (
          <>
            <FieldRow label="Barometer" measure="barometer" value={p} within={{ least: 50_000, most: 110_000 }} onChange={setP} />
            {more && <FieldRow label="Humidity" measure="share" value={0.5} within={{ least: 0, most: 1 }} onChange={() => undefined} />}
            <button onClick={() => setMore(false)}>less</button>
            <button disabled={wrong}>add {p}</button>
          </>
        )}
      </FieldGroup>
    </PrefsProvider>
  );
}
const add = () => screen.getByRole('button', { name: /^add/ });
const type = async (label: string, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), text);
};

it('what fields make together waits while one shows what was not taken', async () => {
  render(<Reading />);
  expect(add()).toBeEnabled();
  for (const text of ['1013', '100,8x', '-4']) {
    await type('Barometer', text);
    expect(screen.getByRole('alert')).toBeInTheDocument();
    expect(add()).toBeDisabled();
    await type('Barometer', '98.5');
    expect(screen.queryByRole('alert')).toBeNull();
    expect(add()).toBeEnabled();
    expect(add()).toHaveTextContent('add 98500');
  }
});

it('waits for each of them, and not for one that is gone', async () => {
  render(<Reading />);
  await type('Barometer', '9');
  await type('Humidity', '140');
  await type('Barometer', '99');
  expect(add()).toBeDisabled();
  await userEvent.click(screen.getByRole('button', { name: 'less' }));
  expect(add()).toBeEnabled();
});
