import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { costWorking } from '@/core/working/verdict-working';
import { gainCost } from '@/core/verdict/cost';
import { FieldRow } from '@/ui/field/field-row';
import { Num, WorkingProvider } from '@/ui/working/provider';
import { PrefsProvider, usePrefs } from './prefs';

function Shown({ onPrice }: { onPrice: (v: number) => void }) {
  const { money, setPack, setTheme, pack, theme, palette } = usePrefs();
  return (
    <>
      <output>{money(1385)}</output>
      <p>
        {JSON.stringify(pack)}, {theme}, {palette.sheet}
      </p>
      <button onClick={() => setPack('us')}>us</button>
      <button onClick={() => setTheme('dark')}>dark</button>
      <FieldRow label="Price" measure="money" value={385} within={{}} onChange={onPrice} />
      <FieldRow label="Bore" measure="bore" value={0.066} within={{}} onChange={() => undefined} />
      <Num
        label="cost"
        working={() =>
          costWorking(
            gainCost(
              { unit: 400, otherParts: 0, fitting: 0, testing: 0 },
              { gain_W: 2000, low_W: 1000, high_W: 3000, word: 'gain', fair: true },
            ),
          )
        }
      >
        cost
      </Num>
    </>
  );
}
const show = (currency?: string, onPrice: (v: number) => void = () => undefined) =>
  render(
    <PrefsProvider pack="metric" theme="light" {...(currency && { currency })}>
      <WorkingProvider>
        <Shown onPrice={onPrice} />
      </WorkingProvider>
    </PrefsProvider>,
  );

it('says money with the shop’s sign wherever it stands: in a sentence, a field and a working', async () => {
  show('kr');
  expect(screen.getByRole('status')).toHaveTextContent('kr\u202f1,385', { normalizeWhitespace: false });
  expect(screen.getByLabelText('Price').parentElement).toHaveTextContent('kr');
  await userEvent.click(screen.getByRole('button', { name: /, cost: show the working$/ }));
  const working = await screen.findByRole('dialog');
  expect(working).toHaveTextContent(/kr\s400/);
  expect(working).not.toHaveTextContent('€');
});

it.each([
  ['250 kr', 250],
  ['kr 1250', 1250],
  ['KR99', 99],
])('an amount is typed with that sign as it is shown: %s', async (text, amount) => {
  const taken = jest.fn();
  show('kr', taken);
  await userEvent.clear(screen.getByLabelText('Price'));
  await userEvent.type(screen.getByLabelText('Price'), text);
  expect(taken).toHaveBeenLastCalledWith(amount);
  expect(screen.queryByRole('alert')).not.toBeInTheDocument();
});

it('another sign is refused, and the one known here is named', async () => {
  show('kr');
  await userEvent.clear(screen.getByLabelText('Price'));
  await userEvent.type(screen.getByLabelText('Price'), '250 zl');
  expect(screen.getByText('"zl" is not a unit for this. Known here: kr.')).toBeInTheDocument();
});

it('without a choice it is the euro', () => {
  show();
  expect(screen.getByRole('status')).toHaveTextContent(/^€\s1,385$/);
});

it('keeps the reader’s units and theme for the next page', async () => {
  show();
  await userEvent.click(screen.getByRole('button', { name: 'us' }));
  await userEvent.click(screen.getByRole('button', { name: 'dark' }));
  expect(screen.getByText(/^"us", dark, #1c2327$/)).toBeInTheDocument();
  expect(screen.getByLabelText('Bore')).toHaveValue('66.0');
  expect(document.cookie).toContain('vanner-units=us');
  expect(document.cookie).toContain('vanner-theme=dark');
  expect(document.documentElement.dataset['theme']).toBe('dark');
});
