import { isFailure } from '@/core/failure';
import type { AboutDoc, AboutPart } from '@/core/documents/about';
import type { JobDoc } from '@/core/documents/job';
import type { ShopSettings } from '@/core/documents/shop';
import type { PackName, UnitPack } from '@/core/units/measures';
import { formatMoney, formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import type { CustomerSheet, SheetTable } from '@/core/verdict/customer-sheet';
import type { VerdictReport } from '@/core/verdict/report';
import { intervalText, stretchName } from '@/features/test/dyno/words';
import { runsEach } from '@/features/test/dyno/words';
import { answerWord, MEASURE_NAMES, measureText } from '@/features/test/strip/words';
import { barName, reasonWords, verdictAnswer, ADVICE_TITLES } from '@/features/verdict/words';

const ABOUT_NAMES = { owner: 'Owner', contact: 'Contact', plate: 'Plate or chassis', mileage: 'Mileage' } as const;

const pct = (v: number): string => formatSigned(v, 1, '%');

function dynoTable(r: VerdictReport): SheetTable[] {
  const c = r.facts.comparison;
  if (!c) return [];
  return [
    {
      title: 'On the dyno, new against stock',
      head: ['engine speed', 'predicted', 'measured', '95 % interval'],
      rows: c.thirds.map((t, i) => [
        `${stretchName(t)}, ${formatNumber(t.from_rpm, 0)} to ${formatNumber(t.to_rpm, 0)} rpm`,
        r.predicted && Number.isFinite(r.predicted.thirds_pct[i]!) ? pct(r.predicted.thirds_pct[i]!) : '—',
        pct(t.mean_pct),
        `${formatSigned(t.answer.low, 1)} to ${pct(t.answer.high)}`,
      ]),
    },
  ];
}

function stripTable(r: VerdictReport, pack: UnitPack): SheetTable[] {
  const { strip } = r.facts;
  if (!strip) return [];
  const rows = (['trap_mps', 'et_s', 'sixty_s'] as const).flatMap((m) => {
    const e = strip.effects[m];
    if (isFailure(e)) return [];
    const text = (v: number): string => measureText(m, v, pack, true);
    return [
      [
        MEASURE_NAMES[m],
        measureText(m, e.meanA, pack),
        text(e.answer.estimate),
        `${text(e.answer.low)} to ${text(e.answer.high)}`,
        answerWord(e.answer.word),
      ],
    ];
  });
  return rows.length === 0
    ? []
    : [
        {
          title: `At the strip, ${strip.countA} stock and ${strip.countB} new passes`,
          head: ['', 'stock', 'new against stock', '95 % interval', ''],
          rows,
        },
      ];
}

function costTable(r: VerdictReport, currency: string): SheetTable[] {
  const { cost } = r;
  if (!cost || cost.total === 0) return [];
  const money = (v: number): string => formatMoney(v, currency);
  return [
    {
      title: 'What it cost',
      head: ['parts', 'fitting', 'testing', 'together'],
      rows: [[money(cost.parts), money(cost.fitting), money(cost.testing), money(cost.total)]],
    },
  ];
}

/** What of owner and car may stand there: only what is said and ticked. */
function aboutLines(about: AboutDoc, pack: UnitPack): (readonly [string, string])[] {
  const said: Readonly<Record<Exclude<AboutPart, 'photos'>, string>> = {
    owner: about.owner,
    contact: about.contact,
    plate: about.plate,
    mileage: about.mileage_m === null ? '' : formatQuantity(about.mileage_m, 'odometer', pack),
  };
  return (Object.keys(said) as (keyof typeof said)[]).flatMap((key) =>
    said[key] !== '' && about.onCustomersPage.includes(key) ? [[ABOUT_NAMES[key], said[key]] as const] : [],
  );
}

/** A customer's page of a job: nothing on it but this car and what was done to it. */
export function customerSheet(
  shop: Pick<ShopSettings, 'name' | 'currency' | 'units'>,
  doc: JobDoc,
  report: VerdictReport,
  name: PackName,
): CustomerSheet {
  // The shop's own units, as on its own screens.
  const pack: UnitPack = { pack: name, own: shop.units };
  const c = report.facts.comparison;
  const { answer } = verdictAnswer(report, pack);
  const p = report.predicted;
  const inside =
    c && p ? p.rpm.map((n, i) => ({ n, g: p.gain_pct[i]! })).filter(({ n }) => n >= c.grid_rpm[0]! && n <= c.grid_rpm.at(-1)!) : [];
  const { override } = doc.verdict;
  const [next] = report.next;
  return {
    shop: shop.name,
    car: doc.name,
    about: aboutLines(doc.about, pack),
    photos: doc.about.onCustomersPage.includes('photos') ? doc.about.photos.map((p, at) => ({ at, caption: p.caption })) : [],
    unit: report.unit?.doc.name ?? 'no throttle body chosen',
    answer: c || report.facts.strip ? answer : 'Not tested yet.',
    reasons: report.advice.reasons.filter((r) => r.code !== 'predicted').map((r) => reasonWords(r, pack)),
    decided: override ? `${ADVICE_TITLES[override.advice]}: ${override.reason}` : null,
    curve: c
      ? {
          rpm: c.grid_rpm,
          measured_pct: c.difference_pct,
          low_pct: c.band.low_pct,
          high_pct: c.band.high_pct,
          predicted: inside.length > 1 ? { rpm: inside.map((q) => q.n), gain_pct: inside.map((q) => q.g) } : null,
        }
      : null,
    bars: report.bars.map((bar) => ({ ...bar, name: barName(bar) })),
    tables: [...dynoTable(report), ...stripTable(report, pack), ...costTable(report, shop.currency)],
    note: doc.verdict.note.trim(),
    small: [
      ...(c
        ? [`Decided over ${stretchName(c.deciding)}: ${intervalText(c.deciding)}, ${runsEach(c)}, all in one correction and smoothing.`]
        : []),
      ...(next && next.gain_pct > 0.05
        ? [`What holds the engine back next, by calculation: the ${next.name}, ${pct(next.gain_pct)} at peak.`]
        : []),
      'An interval says where the true effect lies in 95 of 100 such tests. Figures of another day, dyno or driver differ.',
    ],
  };
}
