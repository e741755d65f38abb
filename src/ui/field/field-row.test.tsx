import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { PrefsProvider } from '../theme/prefs';
import { DoneField } from './field-row';

const done = jest.fn();
function Count() {
  const [value, setValue] = useState<number | null>(6);
  return (
    <PrefsProvider pack="metric" own={{}} theme="light">
      <DoneField
        width={80}
        label="Out"
        measure="count"
        value={value}
        within={{ least: 0, most: 200, whole: true }}
        onDone={(n) => {
          done(n);
          setValue(n);
        }}
      />
      <button>elsewhere</button>
    </PrefsProvider>
  );
}
const field = () => screen.getByLabelText('Out');
beforeEach(() => {
  done.mockReset();
  render(<Count />);
});
const retype = async (text: string): Promise<void> => {
  await userEvent.clear(field());
  await userEvent.type(field(), text);
};

it.each(['{Enter}', '{Tab}'])('is written down once, when the hand leaves it by %s', async (key) => {
  await retype('12');
  expect(done).not.toHaveBeenCalled();
  await userEvent.keyboard(key);
  expect(done.mock.calls).toEqual([[12]]);
  await userEvent.tab();
  expect(done).toHaveBeenCalledTimes(1);
  expect(field()).toHaveValue('12');
});

it('what was typed and put back is nothing to write down', async () => {
  await retype('12');
  await retype('6');
  await userEvent.tab();
  expect(done).not.toHaveBeenCalled();
});

it.each([
  ['250', 'It may be at most 200.'],
  ['4.5', 'It takes a whole number.'],
  ['six', '"six" is not a number.'],
])('%s is not written down, nor its first digits, and says why', async (text, why) => {
  await retype(text);
  await userEvent.tab();
  expect(screen.getByRole('alert')).toHaveTextContent(why);
  expect(done).not.toHaveBeenCalled();
  expect(field()).toHaveValue(text);
});
