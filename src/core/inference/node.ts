import { GROUPS, type Group, type Study } from './study';

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
/** An outlying run scatters by 8 times the run's own: 63 variances more. Testing basis §4.6. */
export const OUTLIER_VARIANCES = 63;

/**
 * One node: the ridge regression of a study with every size given. A stay of one run is put into that run's variance, which
 * gives the same figures with fewer columns; every other column is a coefficient with a prior. Made once for a study; `solve`
 * fills the fields for one node after the other without allocating. Testing basis §4.5, calls "One node".
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

  private readonly p: number;
  private readonly flats: number;
  private readonly r: Float64Array;
  private readonly single: Uint8Array;
  private readonly reading: Float64Array;
  private readonly prior: Float64Array;
  private readonly groups: Uint8Array;
  private readonly sds: Float64Array;
  /** Rows of C, sparse: where each begins, the columns, the entries. */
  private readonly start: Int32Array;
  private readonly at: Int32Array;
  private readonly entry: Float64Array;
  /** Runs of one variance go together: their own C'C, and one of them. */
  private readonly classes: { readonly run: number; readonly gram: Float64Array }[];
  private readonly M: Float64Array;
  private readonly inverse: Float64Array;
  private readonly t: Float64Array;
  private readonly x: Float64Array;

  constructor(private readonly study: Study) {
    const n = study.n;
    this.n = n;
    const runsOfStay = new Int32Array(study.stays);
    for (const s of study.stay) runsOfStay[s]! += 1;
    this.single = Uint8Array.from(study.stay, (s) => (runsOfStay[s] === 1 ? 1 : 0));
    this.reading = Float64Array.from(study.runs, (run) => run.readingVariance ?? 0);
    let stay = -1;
    const columns = study.columns.filter((c) => c.group !== 'refit' || runsOfStay[(stay += 1)]! > 1);
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
    this.t = new Float64Array(p);
    this.x = new Float64Array(p);
  }

  private classesOf(rows: readonly (readonly [number, number][])[]): { run: number; gram: Float64Array }[] {
    const found = new Map<string, { run: number; gram: Float64Array }>();
    const { p } = this;
    rows.forEach((row, i) => {
      const key = `${this.study.isB[i]}/${this.single[i]}/${this.reading[i]}`;
      const own = found.get(key) ?? { run: i, gram: new Float64Array(p * p) };
      found.set(key, own);
      for (const [a, u] of row) for (const [b, v] of row) own.gram[a * p + b]! += u * v;
    });
    return [...found.values()];
  }

  /** Solves the node; `share`, `project` and `coefficient` then speak of it. */
  solve(sizes: NodeSizes): void {
    const { n, p, flats, r, prior, study } = this;
    const variance = sizes.run ** 2;
    const refit = sizes.refit ** 2;
    let logs = 0;
    for (let i = 0; i < n; i += 1) {
      const own = study.isB[i] === 1 ? variance * sizes.kappa : variance / sizes.kappa;
      this.runVariance[i] = own;
      r[i] = own + (this.single[i] === 1 ? refit : 0) + this.reading[i]!;
      logs += Math.log(r[i]!);
    }
    for (let j = flats; j < p; j += 1) {
      const group = GROUPS[this.groups[j]!];
      const sd =
        group === 'refit'
          ? sizes.refit
          : group === 'day'
            ? this.sds[j]! * sizes.dayFactor
            : group === 'sideByVisit'
              ? this.sds[j]! * sizes.byDay
              : this.sds[j]!;
      prior[j] = sd * sd;
      logs += Math.log(prior[j]!);
    }
    logs += this.invert();
    this.t.fill(0);
    for (let i = 0; i < n; i += 1) {
      const scaled = study.y[i]! / r[i]!;
      for (let k = this.start[i]!; k < this.start[i + 1]!; k += 1) this.t[this.at[k]!]! += this.entry[k]! * scaled;
    }
    for (let a = 0; a < p; a += 1) {
      let sum = 0;
      for (let b = 0; b < p; b += 1) sum += this.inverse[a * p + b]! * this.t[b]!;
      this.x[a] = sum;
    }
    let fit = 0;
    for (let i = 0; i < n; i += 1) {
      let [level, spread, beta] = [0, 0, 0];
      const [from, to] = [this.start[i]!, this.start[i + 1]!];
      for (let k = from; k < to; k += 1) {
        const row = this.at[k]! * p;
        const v = this.entry[k]!;
        level += v * this.x[this.at[k]!]!;
        if (flats > BETA) beta += v * this.inverse[row + BETA]!;
        let inner = 0;
        for (let l = from; l < to; l += 1) inner += this.inverse[row + this.at[l]!]! * this.entry[l]!;
        spread += v * inner;
      }
      this.level[i] = level;
      this.spread[i] = spread;
      this.weights[i] = beta / r[i]!;
      this.residual[i] = (study.y[i]! - level) / r[i]!;
      this.precision[i] = (1 - spread / r[i]!) / r[i]!;
      fit += study.y[i]! * this.residual[i]!;
    }
    this.estimate = flats > BETA ? this.x[BETA]! : 0;
    this.variance = flats > BETA ? this.inverse[BETA * p + BETA]! : 0;
    this.logLikelihood = -0.5 * (logs + fit);
  }

  /** M of the node, inverted; its ln det. */
  private invert(): number {
    const { p, M, inverse, flats, prior } = this;
    M.fill(0);
    for (const { run, gram } of this.classes) {
      const scale = 1 / this.r[run]!;
      for (let k = 0; k < gram.length; k += 1) M[k]! += gram[k]! * scale;
    }
    for (let j = flats; j < p; j += 1) M[j * p + j]! += 1 / prior[j]!;
    // Cholesky in the lower half.
    let logDet = 0;
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
    return logDet;
  }

  /** Fills `parts`: what each group adds to the variance of the estimate. They sum to it. */
  share(sizes: NodeSizes): void {
    const { parts, n, p, flats, weights } = this;
    parts.fill(0);
    this.t.fill(0);
    const refit = sizes.refit ** 2;
    for (let i = 0; i < n; i += 1) {
      const square = weights[i]! ** 2;
      parts[0]! += this.runVariance[i]! * square;
      if (this.single[i] === 1) parts[1]! += refit * square;
      parts[GROUPS.length - 1]! += this.reading[i]! * square;
      for (let k = this.start[i]!; k < this.start[i + 1]!; k += 1) this.t[this.at[k]!]! += this.entry[k]! * weights[i]!;
    }
    for (let j = flats; j < p; j += 1) parts[this.groups[j]!]! += this.prior[j]! * this.t[j]! ** 2;
  }

  /** P times a vector, into `out`. */
  project(vector: Float64Array, out: Float64Array): void {
    const { n, p, r } = this;
    this.t.fill(0);
    for (let i = 0; i < n; i += 1) {
      const scaled = vector[i]! / r[i]!;
      if (scaled !== 0) for (let k = this.start[i]!; k < this.start[i + 1]!; k += 1) this.t[this.at[k]!]! += this.entry[k]! * scaled;
    }
    for (let a = 0; a < p; a += 1) {
      let sum = 0;
      for (let b = 0; b < p; b += 1) sum += this.inverse[a * p + b]! * this.t[b]!;
      this.x[a] = sum;
    }
    for (let i = 0; i < n; i += 1) {
      let sum = vector[i]!;
      for (let k = this.start[i]!; k < this.start[i + 1]!; k += 1) sum -= this.entry[k]! * this.x[this.at[k]!]!;
      out[i] = sum / r[i]!;
    }
  }

  /** Of the coefficient of column `j` of the study: its weights h = D·c'P by run, into `out`. */
  coefficient(entries: Float64Array, sd: number, out: Float64Array): void {
    this.project(entries, out);
    for (let i = 0; i < out.length; i += 1) out[i]! *= sd * sd;
  }
}

export const groupIndex = (group: Group): number => GROUPS.indexOf(group);
