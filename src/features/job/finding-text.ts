import { capital } from '@/core/cut-text';
import type { JobFindings, StopFinding, StopState, StripFinding } from '@/core/verdict/findings';
import { coarse, type UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import type { AdviceWord } from '@/core/documents/verdict';
import type { StopKey } from './stops';
import { verdictWord } from '@/ui/answer/verdict-word';

const CONTROL = { cable: 'cable', 'electronic-analogue': 'electronic', 'electronic-digital': 'electronic' } as const;

/** What a verdict can come to, as it is said. */
const ADVICE_WORDS: Readonly<Record<AdviceWord, string>> = {
  keep: 'keep it',
  fix: 'keep it, but put something right',
  back: 'go back to stock',
  more: 'test more',
};

const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

function testLine(kind: string, mean_pct: number, from_rpm: number | null): string {
  const by = formatSigned(mean_pct, 1, '%');
  switch (kind) {
    case 'gain':
      return `gain, ${by}${from_rpm === null ? '' : `, clear from ${formatNumber(from_rpm, 0)} rpm`}`;
    case 'loss':
      return `loss, ${by}`;
    case 'no difference that matters':
      return 'no difference that matters';
    default:
      return `can’t tell yet, ${by} so far`;
  }
}

const stripLine = ({ word, passes }: StripFinding): string => `strip, ${count(passes, 'pass', 'passes')}: ${word.replace("'", '’')}`;

function verdictLine(word: AdviceWord, f: Extract<StopFinding, { stop: 'verdict' }>): string {
  if (f.unfair && word === 'more') return `${ADVICE_WORDS[word]}: not a fair comparison`;
  const by = f.decides_pct === null || f.decides_pct === undefined ? null : `${formatSigned(f.decides_pct, 1, '%')} where it decides`;
  const strip = f.strip ? `${f.strip.word.replace("'", '’')} at the strip` : null;
  return [`${ADVICE_WORDS[word]}`, by ?? strip].filter(Boolean).join(': ');
}

/** What the spine says of Pick: the same word as the page, never a gain that the page does not recommend. */
function pickLine(name: string, f: Extract<StopFinding, { stop: 'pick' }>): string {
  const gain = f.gain_pct === null ? '' : `, ${formatSigned(f.gain_pct, 1, '%')}`;
  const word = f.word ?? null;
  if (word === null || word === 'worth buying' || word === 'worth testing') return `${name} ${f.chosen ? 'chosen' : 'leads'}${gain}`;
  if (f.chosen) return `${name} chosen${gain}: ${verdictWord(word)}`;
  switch (word) {
    case 'measure the gap':
      return `${name} leads${gain}: measure the gap`;
    case 'not the restriction':
      return 'leave it alone: stock is not the restriction';
    case 'costs power':
      return 'nothing on show is larger than stock';
    case 'chokes':
      return `${name} cannot be solved`;
    default:
      return `nothing on show suits: ${name} ${word === 'does not fit' ? word : `is ${verdictWord(word)}`}`;
  }
}

type Of<S extends StopFinding['stop']> = StopFinding & { readonly stop: S };

/** The sentence of one finding, by its step. */
const SENTENCES: { readonly [S in StopFinding['stop']]: (f: Of<S>, pack: UnitPack) => string } = {
  car: (f, pack) => {
    return `${formatQuantity(f.displacement_m3, 'displacement', pack, coarse('displacement', pack, 2))}, ${count(f.cylinders, 'cylinder', 'cylinders')}, ${formatQuantity(f.bore_m, 'bore', pack, coarse('bore', pack))} ${CONTROL[f.control]}`;
  },
  air: (f) => {
    if (f.failed) return 'cannot be solved yet';
    return f.givesOut_rpm === null
      ? 'stock is enough to redline'
      : `stock runs short from ${formatNumber(Math.round(f.givesOut_rpm / 10) * 10, 0)}`;
  },
  pick: (f) => {
    if (f.name === null) return 'nothing on show yet';
    return pickLine(f.name, f);
  },
  fit: (f, pack) => {
    if (f.overhang_m === null) return 'no throttle body chosen';
    if (f.tooFar) return 'does not fit: bore too wide for the flange';
    if (f.ruledOut) return `does not fit: ${f.ruledOut.toLowerCase()}`;
    if (f.needs) return `${count(f.needs, 'thing', 'things')} needed to put it on`;
    return f.overhang_m > 0 ? `manifold to bore by ${formatQuantity(2 * f.overhang_m, 'bore', pack)} across` : 'manifold is wide enough';
  },
  install: (f) => {
    if (f.left === 0) return 'on, every step done and check passed';
    if (f.left !== undefined && f.left < f.steps)
      return `${count(f.left, 'step', 'steps')} left${f.started ? ', first start made' : ', not started yet'}`;
    return `${f.steps} steps, ${f.gates} checks before the start`;
  },
  test: (f) => {
    if (f.unfair) return 'not a fair comparison yet';
    if (f.kind !== null && f.best_pct !== null) return testLine(f.kind, f.best_pct, f.from_rpm ?? null);
    if (f.strip) return stripLine(f.strip);
    return f.runsA + f.runsB === 0 ? 'no runs yet' : `${count(f.runsA + f.runsB, 'run', 'runs')}, one side missing`;
  },
  verdict: (f) => {
    if (f.measured_pct === null && !f.strip) return 'waits for a test';
    if (f.word) return verdictLine(f.word, f);
    if (f.measured_pct === null) return f.strip ? stripLine(f.strip) : 'waits for a test';
    return `${formatSigned(f.measured_pct, 1, '%')} measured at peak${f.predicted_pct === null ? '' : `, ${formatSigned(f.predicted_pct, 1, '%')} predicted`}`;
  },
};
const text = (f: StopFinding, pack: UnitPack): string => (SENTENCES[f.stop] as (f: StopFinding, pack: UnitPack) => string)(f, pack);

export function stopLine(findings: JobFindings, stop: StopKey, pack: UnitPack): { line: string; state: StopState } | null {
  const found = findings.stops.find((f) => f.stop === stop);
  return found ? { line: text(found, pack), state: found.state } : null;
}

/** The board's one line: the furthest stop that has something to say. */
export function boardLine(findings: JobFindings, pack: UnitPack): string {
  const order: StopKey[] = ['verdict', 'test', 'pick', 'air', 'car'];
  for (const stop of order) {
    const found = stopLine(findings, stop, pack);
    if (found && found.state !== 'empty') return sentence(found.line);
  }
  return 'Nothing entered yet.';
}

const sentence = (line: string): string => `${capital(line)}.`;
