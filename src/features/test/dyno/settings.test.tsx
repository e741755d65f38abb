import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JobDoc } from '@/core/documents/job';
import { useJob } from '@/features/job/provider';
import { larkspur, renderJob } from '../../../../test/render-job';
import { Bands, Settings } from './settings';

beforeEach(() => localStorage.clear());
let kept: JobDoc;
function Kept() {
  kept = useJob((s) => s.doc);
  return null;
}
const show = (test: Partial<JobDoc['test']> = {}) =>
  renderJob(
    <>
      <Settings />
      <Bands />
      <Kept />
    </>,
    {
      doc: { ...larkspur, test: { ...larkspur.test, ...test }, car: { ...larkspur.car, gearbox: { ...larkspur.car.gearbox, ratios: [] } } },
    },
  );
const retype = async (label: string, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), text);
};

describe('the range compared', () => {
  it('is narrowed at either end, and is all that is shared again when emptied', async () => {
    show({ range_rpm: null });
    await retype('Compared from', '2,500');
    expect(kept.test.range_rpm).toEqual([2500, 20_000]);
    await retype('Compared to', '6500');
    expect(kept.test.range_rpm).toEqual([2500, 6500]);
    for (const label of ['Compared from', 'Compared to']) await userEvent.clear(screen.getByLabelText(label));
    expect(kept.test.range_rpm).toBeNull();
  });

  it.each([
    ['6500', 'It may be less than 6,000 rpm.'],
    ['slow', '"slow" is not a number.'],
  ])('%s as its beginning is refused in place, keeps what was typed, and compares what it compared', async (text, why) => {
    show({ range_rpm: [2000, 6000] });
    await retype('Compared from', text);
    expect(screen.getByRole('alert')).toHaveTextContent(why);
    await userEvent.tab();
    expect(screen.getByLabelText('Compared from')).toHaveValue(text);
    expect(kept.test.range_rpm).toEqual([2000, 6000]);
  });
});

describe('gear ratios', () => {
  it.each([
    ['3,32, 1,96, 1,36', [3.32, 1.96, 1.36]],
    ['3.32:1 / 1.96:1', [3.32, 1.96]],
  ])('%s are read as people write them', async (text, ratios) => {
    show();
    await userEvent.type(screen.getByLabelText('Gear ratios'), text);
    await userEvent.tab();
    expect(kept.car.gearbox.ratios).toEqual(ratios);
  });

  it('a piece that is none is named, and no gear takes another’s place', async () => {
    show();
    await userEvent.type(screen.getByLabelText('Gear ratios'), '3.32 l.96 1.36');
    await userEvent.tab();
    expect(screen.getByRole('alert')).toHaveTextContent('“l.96” is not a ratio: type them first gear first');
    expect(kept.car.gearbox.ratios).toEqual([]);
    expect(screen.getByLabelText('Gear ratios')).toHaveValue('3.32 l.96 1.36');
  });

  it('that rise are refused with the reason until they are put right', async () => {
    show();
    await userEvent.type(screen.getByLabelText('Gear ratios'), '1.36 3.32');
    await userEvent.tab();
    expect(screen.getByRole('alert')).toHaveTextContent('From first gear up each ratio is lower');
    await retype('Gear ratios', '3.32 1.36');
    await userEvent.tab();
    expect(screen.queryByRole('alert')).toBeNull();
    expect(kept.car.gearbox.ratios).toEqual([3.32, 1.36]);
  });
});

it('a band of one’s own ends above where it begins', async () => {
  show({ bands_rpm: [[3000, 5000]] });
  await retype('Band 1 from', '5500');
  expect(screen.getByRole('alert')).toHaveTextContent('It may be less than 5,000 rpm.');
  expect(kept.test.bands_rpm).toEqual([[3000, 5000]]);
});
