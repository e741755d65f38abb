import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderRoom } from '../../../test/render-room';
import { anchorOf, DRAWINGS, GLOSSARY } from './glossary';
import { ThinkingRoom } from './thinking-room';
import { Term } from './term';

it('every word is there once, says what it is in a line, and has a place of its own to link to', () => {
  const anchors = GLOSSARY.map((e) => anchorOf(e.term));
  expect(new Set(anchors).size).toBe(anchors.length);
  for (const e of GLOSSARY) {
    expect(e.meaning.length).toBeGreaterThan(8);
    expect(e.meaning).not.toMatch(/\.$/);
    expect(anchorOf(e.term)).toMatch(/^[a-z0-9-]+$/);
  }
  expect(new Set(GLOSSARY.map((e) => e.drawing).filter((d) => d !== null))).toEqual(new Set(DRAWINGS));
});

it('a word opens its meaning and its unit by click and by key', async () => {
  renderRoom(<Term name="tip-in">first tenth</Term>);
  const word = screen.getByRole('button', { name: 'first tenth: what it means' });
  await userEvent.click(word);
  const tip = await screen.findByRole('tooltip');
  expect(tip).toHaveTextContent('area opened by the first tenth of the pedal, against stock · ×');
  expect(within(tip).getByRole('link')).toHaveAttribute('href', '/thinking#tip-in');
});

it('a word in a column’s head opens without sorting by the column', async () => {
  const sort = jest.fn();
  renderRoom(
    <div onClick={sort} onKeyDown={sort}>
      <Term name="tip-in" />
    </div>,
  );
  const word = screen.getByRole('button', { name: 'tip-in: what it means' });
  await userEvent.click(word);
  expect(await screen.findByRole('tooltip')).toHaveTextContent('area opened');
  word.focus();
  await userEvent.keyboard('{Enter}');
  expect(sort).not.toHaveBeenCalled();
});

it('the page holds ways to size, the statistics and every word, and finds one', async () => {
  renderRoom(<ThinkingRoom />);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('How Vanner thinks');
  expect(screen.getByText('What the four words mean')).toBeInTheDocument();
  expect(screen.getAllByRole('term')).toHaveLength(GLOSSARY.length);
  await userEvent.type(screen.getByLabelText('Find a word'), 'refit');
  expect(screen.getAllByRole('term').map((t) => t.textContent)).toEqual(['refit scatter']);
  await userEvent.type(screen.getByLabelText('Find a word'), 'zzz');
  expect(screen.getByText(/^No word like that/)).toBeInTheDocument();
});
