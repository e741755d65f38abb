import { GROUPS, type Study } from './study';

/** The sizes of one node, in the unit: what every other column has is fixed. */
export interface NodeSizes {
  readonly run: number;
  readonly refit: number;
  /** Factor on the rig's day. */
  readonly dayFactor: number;
  /** sd of B's runs over that of A's. */
  readonly kappa: number;
  /** Factor on the part's change from day to day. */
  readonly byDay: number;
}

const BETA = 1;
const REFIT = GROUPS.indexOf('refit');
/** An outlying run scatters by 8 times the run's own: 63 variances more. Testing basis §4.6. */
export const OUTLIER_VARIANCES = 63;

interface RunClass {
  readonly run: number;
  readonly gram: Float64Array;
  readonly runsOfStay: Float64Array;
  readonly against: Float64Array;
}

/**
 * One node: the ridge regression of a study with every size given. Refits never meet one another in a run, so they are taken out
 * before the rest is solved: a stay of one run goes into that run's variance, one of several is a column that is eliminated by
 * hand; what stays is as many columns as flat effects, days and covariates. Made once for a study; `solve` fills the fields for
 * one node after the other without allocating; several values of the same runs share `lay` and have a `fit` each. Testing basis §4.5, calls "One node".
 */
export class NodeSolver {
  readonly n: number;
  /** ln L₀ without outliers. */
  logLikelihood = 0;
  /** Estimate of B − A and its variance. */
  estimate = 0;
  variance = 0;
  /** Run weights: the estimate is weights·y. */
  readonly weights: Float64Array;
  /** Py, and the diagonal of P. */
  readonly residual: Float64Array;
  readonly precision: Float64Array;
  /** What the model says of each run's level, of values less their mean, and the variance of that. */
  readonly level: Float64Array;
  readonly spread: Float64Array;
  /** Run variances alone, without refit or reading. */
  readonly runVariance: Float64Array;
  /** Shares of the variance, summed: one a group, in the order of GROUPS. */
  readonly parts = new Float64Array(GROUPS.length);
  /** ln of every variance and determinant that the likelihood has. */
  private logs = 0;

  /** Columns that are solved for, the flat ones first, and stays of several runs. */
  private readonly p: number;
  private readonly q: number;
  private readonly flats: number;
  private readonly r: Float64Array;
  private readonly single: Uint8Array;
  /** The stay of several runs each belongs to; −1: it stands alone. */
  private readonly shared: Int32Array;
  private readonly reading: Float64Array;
  private readonly prior: Float64Array;
  private readonly groups: Uint8Array;
  private readonly sds: Float64Array;
  /** Rows of C, sparse: where each begins, the columns, the entries. */
  private readonly start: Int32Array;
  private readonly at: Int32Array;
  private readonly entry: Float64Array;
  /** Runs of one variance go together: their own C'C, what they add to each stay, and one of them. */
  private readonly classes: readonly RunClass[];
  /** Columns that the runs of each stay meet, rising: those of stay s stand from touchedFrom[s] to touchedFrom[s + 1]. */
  private readonly touched: Int32Array;
  private readonly touchedFrom: Int32Array;
  private readonly M: Float64Array;
  private readonly inverse: Float64Array;
  /** Of each stay: its own entry of the whole matrix, its row against the columns, that row times the inverse, its variance. */
  private readonly own: Float64Array;
  private readonly against: Float64Array;
  private readonly carried: Float64Array;
  private readonly alone: Float64Array;
  private readonly t: Float64Array;
  private readonly x: Float64Array;
  private readonly tStay: Float64Array;
  private readonly xStay: Float64Array;

  constructor(private readonly study: Study) {
    const n = study.n;
    this.n = n;
    const runsOfStay = new Int32Array(study.stays);
    for (const s of study.stay) runsOfStay[s]! += 1;
    const place = new Int32Array(study.stays).fill(-1);
    let q = 0;
    for (let s = 0; s < study.stays; s += 1) if (runsOfStay[s]! > 1) place[s] = q++;
    this.q = q;
    this.shared = Int32Array.from(study.stay, (s) => place[s]!);
    this.single = Uint8Array.from(this.shared, (s) => (s < 0 ? 1 : 0));
    this.reading = Float64Array.from(study.runs, (run) => run.readingVariance ?? 0);
    const columns = study.columns.filter((c) => c.group !== 'refit');
    this.flats = study.twoSided ? 2 : 1;
    this.p = this.flats + columns.length;
    const p = this.p;
    this.groups = new Uint8Array(p);
    this.sds = new Float64Array(p);
    columns.forEach((c, j) => {
      this.groups[this.flats + j] = GROUPS.indexOf(c.group);
      this.sds[this.flats + j] = c.sd;
    });
    const rows = Array.from({ length: n }, (_, i) => {
      const row: [number, number][] = [[0, 1]];
      if (study.twoSided) row.push([BETA, study.isB[i]! - 0.5]);
      columns.forEach((c, j) => {
        if (c.entries[i] !== 0) row.push([this.flats + j, c.entries[i]!]);
      });
      return row;
    });
    this.start = new Int32Array(n + 1);
    rows.forEach((row, i) => (this.start[i + 1] = this.start[i]! + row.length));
    this.at = Int32Array.from(rows.flat(), ([j]) => j);
    this.entry = Float64Array.from(rows.flat(), ([, v]) => v);
    this.classes = this.classesOf(rows);
    const met = Array.from({ length: q }, (_, s) =>
      Array.from({ length: p }, (_, a) => a).filter((a) => this.classes.some((c) => c.against[s * p + a] !== 0)),
    );
    this.touched = Int32Array.from(met.flat());
    this.touchedFrom = new Int32Array(q + 1);
    met.forEach((list, s) => (this.touchedFrom[s + 1] = this.touchedFrom[s]! + list.length));
    this.weights = new Float64Array(n);
    this.residual = new Float64Array(n);
    this.precision = new Float64Array(n);
    this.level = new Float64Array(n);
    this.spread = new Float64Array(n);
    this.runVariance = new Float64Array(n);
    this.r = new Float64Array(n);
    this.prior = new Float64Array(p);
    this.M = new Float64Array(p * p);
    this.inverse = new Float64Array(p * p);
    this.own = new Float64Array(q);
    this.against = new Float64Array(q * p);
    this.carried = new Float64Array(q * p);
    this.alone = new Float64Array(q);
    this.t = new Float64Array(p);
    this.x = new Float64Array(p);
    this.tStay = new Float64Array(q);
    this.xStay = new Float64Array(q);
  }

  private classesOf(rows: readonly (readonly [number, number][])[]): RunClass[] {
    const found = new Map<string, RunClass>();
    const { p, q } = this;
    rows.forEach((row, i) => {
      const key = `${this.study.isB[i]}/${this.single[i]}/${this.reading[i]}`;
      const own = found.get(key) ?? {
        run: i,
        gram: new Float64Array(p * p),
        runsOfStay: new Float64Array(q),
        against: new Float64Array(q * p),
      };
      found.set(key, own);
      const s = this.shared[i]!;
      if (s >= 0) own.runsOfStay[s]! += 1;
      for (const [a, u] of row) {
        if (s >= 0) own.against[s * p + a]! += u;
        for (const [b, v] of row) own.gram[a * p + b]! += u * v;
      }
    });
    return [...found.values()];
  }

  /** Solves the node; `share`, `project` and `coefficient` then speak of it. */
  solve(sizes: NodeSizes): void {
    this.lay(sizes);
    this.fit(this.study.y);
  }

  /** What of a node hangs on its sizes and on how the runs lie, and not on their values: once for any number of `fit`s. */
  lay(sizes: NodeSizes): void {
    const { n, p, q, flats, r, prior, study } = this;
    const variance = sizes.run ** 2;
    const refit = sizes.refit ** 2;
    let logs = q * Math.log(refit);
    for (let i = 0; i < n; i += 1) {
      const own = study.isB[i] === 1 ? variance * sizes.kappa : variance / sizes.kappa;
      this.runVariance[i] = own;
      r[i] = own + (this.single[i] === 1 ? refit : 0) + this.reading[i]!;
      logs += Math.log(r[i]!);
    }
    for (let j = flats; j < p; j += 1) {
      const group = GROUPS[this.groups[j]!];
      const sd = group === 'day' ? this.sds[j]! * sizes.dayFactor : group === 'sideByVisit' ? this.sds[j]! * sizes.byDay : this.sds[j]!;
      prior[j] = sd * sd;
      logs += Math.log(prior[j]!);
    }
    this.logs = logs + this.invert(refit);
    const { at, entry, start, shared, inverse, carried, alone } = this;
    const twoSided = flats > BETA;
    for (let i = 0; i < n; i += 1) {
      let spread = 0;
      let beta = 0;
      const from = start[i]!;
      const to = start[i + 1]!;
      const s = shared[i]!;
      if (s >= 0) {
        spread = alone[s]!;
        if (twoSided) beta = -carried[s * p + BETA]!;
        for (let k = from; k < to; k += 1) spread -= 2 * entry[k]! * carried[s * p + at[k]!]!;
      }
      for (let k = from; k < to; k += 1) {
        const column = at[k]!;
        const row = column * p;
        const v = entry[k]!;
        if (twoSided) beta += v * inverse[row + BETA]!;
        // The inverse is symmetric: what lies off its diagonal counts twice.
        let inner = 0;
        for (let l = from; l < k; l += 1) inner += inverse[row + at[l]!]! * entry[l]!;
        spread += v * (2 * inner + inverse[row + column]! * v);
      }
      const own = r[i]!;
      this.spread[i] = spread;
      this.weights[i] = beta / own;
      this.precision[i] = (1 - spread / own) / own;
    }
    this.variance = twoSided ? this.inverse[BETA * p + BETA]! : 0;
  }

  /** What of the node that was laid out hangs on the runs' values, here less their mean. */
  fit(y: Float64Array): void {
    this.coefficientsOf(y);
    const { n, flats, r, at, entry, start, shared, x, xStay } = this;
    let fit = 0;
    for (let i = 0; i < n; i += 1) {
      const s = shared[i]!;
      let level = s >= 0 ? xStay[s]! : 0;
      const to = start[i + 1]!;
      for (let k = start[i]!; k < to; k += 1) level += entry[k]! * x[at[k]!]!;
      const residual = (y[i]! - level) / r[i]!;
      this.level[i] = level;
      this.residual[i] = residual;
      fit += y[i]! * residual;
    }
    this.estimate = flats > BETA ? x[BETA]! : 0;
    this.logLikelihood = -0.5 * (this.logs + fit);
  }

  /** M of the node without its stays, inverted, and what goes with the stays; ln det of the whole. */
  private invert(refit: number): number {
    const { p, q, M, inverse, flats, prior, own, against, carried, alone } = this;
    M.fill(0);
    own.fill(1 / refit);
    against.fill(0);
    const { touched, touchedFrom } = this;
    for (const c of this.classes) {
      const scale = 1 / this.r[c.run]!;
      const { gram } = c;
      for (let a = 0; a < p; a += 1) for (let k = a * p; k <= a * p + a; k += 1) M[k]! += gram[k]! * scale;
      for (let s = 0; s < q; s += 1) {
        if (c.runsOfStay[s] === 0) continue;
        own[s]! += c.runsOfStay[s]! * scale;
        for (let k = touchedFrom[s]!; k < touchedFrom[s + 1]!; k += 1) {
          const place = s * p + touched[k]!;
          against[place]! += c.against[place]! * scale;
        }
      }
    }
    for (let j = flats; j < p; j += 1) M[j * p + j]! += 1 / prior[j]!;
    let logDet = 0;
    for (let s = 0; s < q; s += 1) {
      logDet += Math.log(own[s]!);
      const [first, end] = [touchedFrom[s]!, touchedFrom[s + 1]!];
      for (let k = first; k < end; k += 1) {
        const a = touched[k]!;
        const u = against[s * p + a]! / own[s]!;
        for (let l = first; l <= k; l += 1) M[a * p + touched[l]!]! -= u * against[s * p + touched[l]!]!;
      }
    }
    // Cholesky in the lower half.
    for (let j = 0; j < p; j += 1) {
      let diagonal = M[j * p + j]!;
      for (let k = 0; k < j; k += 1) diagonal -= M[j * p + k]! ** 2;
      const root = Math.sqrt(diagonal);
      M[j * p + j] = root;
      logDet += 2 * Math.log(root);
      for (let i = j + 1; i < p; i += 1) {
        let sum = M[i * p + j]!;
        for (let k = 0; k < j; k += 1) sum -= M[i * p + k]! * M[j * p + k]!;
        M[i * p + j] = sum / root;
      }
    }
    // The lower factor's inverse, in place; then its own product.
    for (let j = 0; j < p; j += 1) {
      M[j * p + j] = 1 / M[j * p + j]!;
      for (let i = j + 1; i < p; i += 1) {
        let sum = 0;
        for (let k = j; k < i; k += 1) sum -= M[i * p + k]! * M[k * p + j]!;
        M[i * p + j] = sum / M[i * p + i]!;
      }
    }
    for (let a = 0; a < p; a += 1)
      for (let b = 0; b <= a; b += 1) {
        let sum = 0;
        for (let k = a; k < p; k += 1) sum += M[k * p + a]! * M[k * p + b]!;
        inverse[a * p + b] = sum;
        inverse[b * p + a] = sum;
      }
    for (let s = 0; s < q; s += 1) {
      let spread = 1;
      const [first, end, scale] = [touchedFrom[s]!, touchedFrom[s + 1]!, own[s]!];
      for (let a = 0; a < p; a += 1) {
        let sum = 0;
        for (let k = first; k < end; k += 1) sum += inverse[a * p + touched[k]!]! * against[s * p + touched[k]!]!;
        carried[s * p + a] = sum / scale;
      }
      for (let k = first; k < end; k += 1) spread += carried[s * p + touched[k]!]! * against[s * p + touched[k]!]!;
      alone[s] = spread / scale;
    }
    return logDet;
  }

  /** The coefficients, into `x` and `xStay`, that a vector of runs would have. */
  private coefficientsOf(vector: Float64Array): void {
    const { n, p, q, r, t, x, tStay, xStay, own, against, start, at, entry, shared, inverse, touched, touchedFrom } = this;
    t.fill(0);
    tStay.fill(0);
    for (let i = 0; i < n; i += 1) {
      const scaled = vector[i]! / r[i]!;
      if (scaled === 0) continue;
      for (let k = start[i]!; k < start[i + 1]!; k += 1) t[at[k]!]! += entry[k]! * scaled;
      const s = shared[i]!;
      if (s >= 0) tStay[s]! += scaled;
    }
    for (let s = 0; s < q; s += 1) {
      const u = tStay[s]! / own[s]!;
      for (let k = touchedFrom[s]!; k < touchedFrom[s + 1]!; k += 1) t[touched[k]!]! -= against[s * p + touched[k]!]! * u;
    }
    for (let a = 0; a < p; a += 1) {
      let sum = 0;
      for (let b = 0; b < p; b += 1) sum += inverse[a * p + b]! * t[b]!;
      x[a] = sum;
    }
    for (let s = 0; s < q; s += 1) {
      let sum = tStay[s]!;
      for (let k = touchedFrom[s]!; k < touchedFrom[s + 1]!; k += 1) sum -= against[s * p + touched[k]!]! * x[touched[k]!]!;
      xStay[s] = sum / own[s]!;
    }
  }

  /** Fills `parts`: what each group adds to the variance of the estimate. They sum to it. */
  share(sizes: NodeSizes): void {
    const { parts, n, p, q, flats, weights, t, tStay } = this;
    parts.fill(0);
    t.fill(0);
    tStay.fill(0);
    const refit = sizes.refit ** 2;
    for (let i = 0; i < n; i += 1) {
      const square = weights[i]! ** 2;
      parts[0]! += this.runVariance[i]! * square;
      if (this.single[i] === 1) parts[REFIT]! += refit * square;
      else tStay[this.shared[i]!]! += weights[i]!;
      parts[GROUPS.length - 1]! += this.reading[i]! * square;
      for (let k = this.start[i]!; k < this.start[i + 1]!; k += 1) t[this.at[k]!]! += this.entry[k]! * weights[i]!;
    }
    for (let s = 0; s < q; s += 1) parts[REFIT]! += refit * tStay[s]! ** 2;
    for (let j = flats; j < p; j += 1) parts[this.groups[j]!]! += this.prior[j]! * t[j]! ** 2;
  }

  /** P times a vector, into `out`. */
  project(vector: Float64Array, out: Float64Array): void {
    this.coefficientsOf(vector);
    const { n, shared, xStay, start, at, entry, x, r } = this;
    for (let i = 0; i < n; i += 1) {
      const s = shared[i]!;
      let sum = vector[i]! - (s >= 0 ? xStay[s]! : 0);
      for (let k = start[i]!; k < start[i + 1]!; k += 1) sum -= entry[k]! * x[at[k]!]!;
      out[i] = sum / r[i]!;
    }
  }

  /** Of the coefficient of a column with these entries: its weights h = D·c'P by run, into `out`. */
  coefficient(entries: Float64Array, sd: number, out: Float64Array): void {
    this.project(entries, out);
    for (let i = 0; i < out.length; i += 1) out[i]! *= sd * sd;
  }
}
