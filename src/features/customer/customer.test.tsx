import { aboutDoc, type AboutPart } from '@/core/documents/about';
import { render, screen } from '@testing-library/react';
import { verdictReport } from '@/core/verdict/report';
import { comparedSides, factsOf, stripOf } from '../../../test/facts';
import { larkspur, units } from '../../../test/render-job';
import { customerSheet } from './content';
import { CustomerPage } from './customer-page';

const facts = factsOf({
  comparison: comparedSides(0, 0.04),
  strip: stripOf(8, 0.04, 'unit-1'),
  guesses: [
    {
      id: 'g',
      subject: 'dyno',
      subjectId: null,
      title: 't',
      source: 'Secret Maud',
      predicted: 1,
      low: 0,
      high: 2,
      measured: null,
      madeAt: '2026-04-18T08:00:00Z',
    },
  ],
});
const sheet = customerSheet({ name: 'Mill Yard', currency: '£', units: {} }, larkspur, verdictReport(larkspur, units, facts), 'us');

it('tells the customer what came of it, in their units', () => {
  render(<CustomerPage sheet={sheet} until="1 Jun 2026" pdf="/c/x/pdf" photos="/c/x/photo" />);
  expect(screen.getByText(/^Keep it: Fenwick 66 gained/)).toBeInTheDocument();
  expect(screen.getByRole('img', { name: /^Power against stock/ })).toBeInTheDocument();
  expect(screen.getByText(/mph in trap speed/)).toBeInTheDocument();
  expect(screen.getByRole('link', { name: 'As a PDF' })).toHaveAttribute('href', '/c/x/pdf');
});

it('speaks a measure in the shop’s own unit where it has one', () => {
  const own = customerSheet(
    { name: 'Mill Yard', currency: '£', units: { roadSpeed: 'kmh' } },
    larkspur,
    verdictReport(larkspur, units, facts),
    'us',
  );
  expect(JSON.stringify(own)).toMatch(/km\/h in trap speed/);
});

it('holds nothing of the shop’s own: no guesses, no goal, no other units', () => {
  const text = JSON.stringify(sheet);
  expect(text).not.toContain('Secret Maud');
  expect(text).not.toContain(larkspur.car.goal);
  expect(text).not.toContain('Marl 74');
  expect(text).not.toMatch(/unit-\d|job-1/);
});

it('a job without runs is told as one', () => {
  const bare = customerSheet({ name: '', currency: '€', units: {} }, larkspur, verdictReport(larkspur, units, factsOf({})), 'metric');
  expect(bare).toMatchObject({ answer: 'Not tested yet.', curve: null, bars: [], tables: [] });
  render(<CustomerPage sheet={bare} until="1 Jun 2026" pdf="/x" photos="/y" />);
  expect(screen.getByText('Not tested yet.')).toBeInTheDocument();
});

it('of owner and car only what is ticked stands there, and nothing that is not said', () => {
  const about = aboutDoc.parse({
    owner: 'Imke Voss',
    contact: '0123 456',
    mileage_m: 1.2e8,
    photos: [{ hash: 'a'.repeat(64), caption: 'on the ramp' }],
  });
  const told = (onCustomersPage: AboutPart[]) =>
    customerSheet(
      { name: '', currency: '€', units: {} },
      { ...larkspur, about: { ...about, onCustomersPage } },
      verdictReport(larkspur, units, facts),
      'metric',
    );
  expect(told([])).toMatchObject({ about: [], photos: [] });
  expect(told(['mileage', 'plate'])).toMatchObject({ about: [['Mileage', '120,000 km']], photos: [] });
  const all = told(['owner', 'contact', 'plate', 'mileage', 'photos']);
  render(<CustomerPage sheet={all} until="1 Jun 2026" pdf="/x" photos="/c/t/photo" />);
  expect(screen.getByText('Imke Voss')).toBeInTheDocument();
  expect(screen.getByRole('img', { name: 'on the ramp' })).toHaveAttribute('src', '/c/t/photo/0');
  expect(JSON.stringify(all)).not.toContain('a'.repeat(64));
});
