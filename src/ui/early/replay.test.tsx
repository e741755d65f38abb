import { act, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Input, Upload } from 'antd';
import { useState, type ReactNode } from 'react';
import { renderToString } from 'react-dom/server';
import { QuantityInput } from '@/ui/field/quantity-input';
import { PrefsProvider } from '@/ui/theme/prefs';
import { Early } from './replay';
import { EARLY_SCRIPT } from './script';

/** The page as the server sends it, with its first script; then what somebody does to it; then React. */
async function early(page: ReactNode, acts: () => Promise<void>): Promise<void> {
  const whole = (
    <PrefsProvider pack="metric" own={{}} theme="light">
      {page}
      <Early />
    </PrefsProvider>
  );
  const container = document.createElement('div');
  document.body.append(container);
  container.innerHTML = renderToString(whole);
  new Function(EARLY_SCRIPT)();
  await acts();
  render(whole, { container, hydrate: true });
}
afterEach(() => document.body.replaceChildren());

function Goal({ said }: { said: (goal: string) => void }) {
  const [goal, setGoal] = useState('as sent');
  const say = (next: string): void => {
    setGoal(next);
    said(next);
  };
  return <Input.TextArea aria-label="Goal" value={goal} onChange={(e) => say(e.target.value)} />;
}

it('reads a figure that was typed before the page listened', async () => {
  const seen: number[] = [];
  await early(
    <QuantityInput label="Bore" value={0.058} measure="bore" within={{}} onChange={(si) => seen.push(Math.round(si * 1000))} />,
    async () => {
      await userEvent.clear(screen.getByLabelText('Bore'));
      await userEvent.type(screen.getByLabelText('Bore'), '66');
    },
  );
  expect(seen).toEqual([66]);
  expect(screen.getByLabelText('Bore')).toHaveValue('66');
});

it('marks words that are no figure, and keeps them', async () => {
  await early(<QuantityInput label="Bore" value={0.058} measure="bore" within={{}} onChange={jest.fn()} />, async () => {
    await userEvent.type(screen.getByLabelText('Bore'), 'wide');
  });
  expect(screen.getByLabelText('Bore')).toBeInvalid();
  expect(screen.getByLabelText('Bore')).toHaveValue('58.0wide');
});

it('takes text, a tick and a choice, each once, and what nobody touched not at all', async () => {
  const said = jest.fn();
  const ticked = jest.fn();
  const chosen = jest.fn();
  const untouched = jest.fn();
  function Page() {
    const [on, setOn] = useState(true);
    const [unit, setUnit] = useState('kW');
    return (
      <>
        <Goal said={said} />
        <input
          type="checkbox"
          aria-label="Corrected"
          checked={on}
          onChange={(e) => {
            setOn(e.target.checked);
            ticked(e.target.checked);
          }}
        />
        <select
          aria-label="Unit"
          value={unit}
          onChange={(e) => {
            setUnit(e.target.value);
            chosen(e.target.value);
          }}
        >
          <option>kW</option>
          <option>hp</option>
        </select>
        <input aria-label="Owner" value="" onChange={untouched} />
      </>
    );
  }
  await early(<Page />, async () => {
    await userEvent.clear(screen.getByLabelText('Goal'));
    await userEvent.type(screen.getByLabelText('Goal'), 'more air');
    await userEvent.click(screen.getByLabelText('Corrected'));
    await userEvent.selectOptions(screen.getByLabelText('Unit'), 'hp');
  });
  expect(said.mock.calls).toEqual([['more air']]);
  expect(ticked.mock.calls).toEqual([[false]]);
  expect(chosen.mock.calls).toEqual([['hp']]);
  expect(untouched).not.toHaveBeenCalled();
  expect(screen.getByLabelText('Goal')).toHaveValue('more air');
  expect(screen.getByLabelText('Corrected')).not.toBeChecked();
  expect(screen.getByLabelText('Unit')).toHaveValue('hp');
});

it('takes a file that was chosen before the page listened', async () => {
  const took = jest.fn();
  await early(
    <Upload
      data-testid="files"
      showUploadList={false}
      beforeUpload={(file) => {
        took(file.name);
        return false;
      }}
    />,
    () => userEvent.upload(screen.getByTestId('files'), new File(['rpm\n1\n'], 'stock.csv', { type: 'text/csv' })),
  );
  await act(() => Promise.resolve());
  expect(took.mock.calls).toEqual([['stock.csv']]);
});

it('keeps a file that is let go of from replacing the page, until the page listens', async () => {
  const drop = (): boolean => fireEvent.drop(document.body, { dataTransfer: { files: [], types: ['Files'] } });
  await early(<p>page</p>, async () => expect(drop()).toBe(false));
  expect(drop()).toBe(true);
});

it('hears nothing twice: what is typed once the page listens is typed once', async () => {
  const said = jest.fn();
  await early(<Goal said={said} />, async () => {});
  await userEvent.type(screen.getByLabelText('Goal'), '!');
  expect(said.mock.calls).toEqual([['as sent!']]);
});
