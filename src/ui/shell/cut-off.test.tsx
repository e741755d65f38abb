import { fireEvent, render, screen } from '@testing-library/react';
import { App } from 'antd';
import { CutOff } from './cut-off';

beforeEach(() => {
  render(
    <App>
      <CutOff />
      <input aria-label="name" maxLength={8} defaultValue="abcdef" />
      <textarea aria-label="note" maxLength={8} />
      <input aria-label="free" />
    </App>,
  );
});

const paste = (name: string, text: string, from = 0, to = 0): void => {
  const field = screen.getByLabelText<HTMLInputElement>(name);
  field.setSelectionRange(from, to);
  fireEvent.paste(field, { clipboardData: { getData: () => text } });
};
const told = () => screen.queryByText(/^It takes 8 characters/)?.textContent ?? null;

it('what a field has no room for is told in its own words, and nothing where all of it fits', () => {
  paste('free', 'x'.repeat(5000));
  paste('name', 'gh', 6, 6);
  paste('name', '12345678', 0, 6);
  paste('note', '1234\r\n78 \n');
  expect(told()).toBeNull();
  paste('name', 'ghij', 6, 6);
  expect(told()).toBe('It takes 8 characters; 2 more were left out: “ij”.');
  paste('name', '123456789', 0, 6);
  expect(told()).toBe('It takes 8 characters; 1 more was left out: “9”.');
});

it('what is moved about within a field is not taken for more of it', () => {
  const field = screen.getByLabelText<HTMLInputElement>('name');
  const drop = { dataTransfer: { getData: () => 'abc' } };
  field.setSelectionRange(0, 3);
  fireEvent.dragStart(field);
  fireEvent.drop(field, drop);
  expect(told()).toBeNull();
  // From elsewhere it goes beside what is selected there.
  fireEvent.drop(field, drop);
  expect(told()).toBe('It takes 8 characters; 1 more was left out: “c”.');
});

it('a book in a note is told by its beginning, also where it was dropped', () => {
  fireEvent.drop(screen.getByLabelText('note'), { dataTransfer: { getData: () => 'x'.repeat(2008) } });
  expect(told()).toBe(`It takes 8 characters; 2000 more were left out: “${'x'.repeat(400)} …”.`);
});
