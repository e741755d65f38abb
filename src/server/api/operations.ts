import type { z } from 'zod';
import { uploadQuery } from '../files/upload';
import {
  comparisonAnswer,
  formatQuery,
  jobBody,
  jobLine,
  jobPage,
  jobsQuery,
  newJob,
  pageQuery,
  nothing,
  passBody,
  passPage,
  problemAnswer,
  runAnswer,
  runBody,
  runPage,
  runsQuery,
  solveAnswer,
  solveRequest,
  storedJob,
  storedPass,
  storedRun,
  storedUnit,
  storedVisit,
  unitBody,
  unitPage,
  unitsQuery,
  uploadAnswer,
  visitBody,
  visitPage,
} from './shapes';

export type Method = 'get' | 'post' | 'put' | 'delete';

export interface Operation {
  readonly id: string;
  readonly method: Method;
  readonly path: string;
  readonly summary: string;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType | 'file';
  readonly answer: z.ZodType | 'archive' | 'lines';
  readonly status: number;
  /** A table may be asked for instead. */
  readonly csv?: boolean;
  readonly writes: boolean;
  /** The answer carries its version as ETag; a write of it has to name the version it changes in If-Match. */
  readonly versioned?: boolean;
}

const read = (op: Omit<Operation, 'method' | 'status' | 'writes'>): Operation => ({ ...op, method: 'get', status: 200, writes: false });
const create = (op: Omit<Operation, 'method' | 'status' | 'writes'>): Operation => ({ ...op, method: 'post', status: 201, writes: true });
const change = (op: Omit<Operation, 'method' | 'status' | 'writes' | 'versioned'>): Operation => ({
  ...op,
  method: 'put',
  status: 200,
  writes: true,
  versioned: true,
});
const trash = (id: string, path: string, what: string): Operation => ({
  id,
  method: 'delete',
  path,
  summary: `Puts ${what}; the trash in the app brings it back`,
  answer: nothing,
  status: 200,
  writes: true,
});

/** Everything the HTTP API does: the dispatcher goes by this list, and so does the document that describes it. */
export const OPERATIONS = [
  read({ id: 'listJobs', path: '/jobs', summary: 'Jobs, the last touched first', query: jobsQuery, answer: jobPage }),
  create({
    id: 'createJob',
    path: '/jobs',
    summary: 'A new job: a whole document, or a name and a kind of engine to begin with',
    body: newJob,
    answer: storedJob,
    versioned: true,
  }),
  read({ id: 'readJob', path: '/jobs/{id}', summary: 'One job with its whole document', answer: storedJob, versioned: true }),
  change({
    id: 'updateJob',
    path: '/jobs/{id}',
    summary: 'Saves a job’s document over the version named in If-Match',
    body: jobBody,
    answer: storedJob,
  }),
  trash('trashJob', '/jobs/{id}', 'a job into the trash'),
  read({
    id: 'exportJob',
    path: '/jobs/{id}/archive',
    summary: 'The whole job as one archive: documents, originals, samples, photos',
    answer: 'archive',
  }),
  read({
    id: 'exportAll',
    path: '/export',
    summary: 'Everything the shop knows as lines of JSON: throttle bodies, then each job with its runs, visits and passes',
    answer: 'lines',
  }),
  read({ id: 'listUnits', path: '/units', summary: 'The shelf', query: unitsQuery, answer: unitPage }),
  create({
    id: 'createUnit',
    path: '/units',
    summary: 'Puts a throttle body on the shelf',
    body: unitBody,
    answer: storedUnit,
    versioned: true,
  }),
  read({ id: 'readUnit', path: '/units/{id}', summary: 'One throttle body', answer: storedUnit, versioned: true }),
  change({
    id: 'updateUnit',
    path: '/units/{id}',
    summary: 'Saves a throttle body over the version named in If-Match',
    body: unitBody,
    answer: storedUnit,
  }),
  trash('trashUnit', '/units/{id}', 'a throttle off the shelf; jobs that speak of it keep it'),
  {
    id: 'solve',
    method: 'post',
    path: '/solve',
    summary: 'Stock and throttles over engine speed, SI. Nothing is stored, so no key is needed',
    body: solveRequest,
    answer: solveAnswer,
    status: 200,
    writes: false,
  },
  read({ id: 'listRuns', path: '/jobs/{id}/runs', summary: 'The runs of a job, as they came in', query: runsQuery, answer: runPage }),
  create({
    id: 'uploadRun',
    path: '/jobs/{id}/runs',
    summary: 'Takes a dyno file or a log into a job: the file is the body, as it is (text, workbook, archive, JSON, XML, track, MDF 4)',
    query: uploadQuery,
    body: 'file',
    answer: uploadAnswer,
  }),
  read({
    id: 'readRun',
    path: '/runs/{id}',
    summary: 'A run with its channels as they stood in the file; as CSV with a row of units',
    query: formatQuery,
    answer: runAnswer,
    csv: true,
    versioned: true,
  }),
  change({
    id: 'updateRun',
    path: '/runs/{id}',
    summary: 'Corrects a run’s record: side, conditions, place, and what its columns are',
    body: runBody,
    answer: storedRun,
  }),
  trash('trashRun', '/runs/{id}', 'a run into the trash'),
  read({
    id: 'compare',
    path: '/jobs/{id}/comparison',
    summary: 'Stock against the new side: curves, intervals, one of the four answers, and what makes it unfair',
    query: formatQuery,
    answer: comparisonAnswer,
    csv: true,
  }),
  read({ id: 'listVisits', path: '/jobs/{id}/visits', summary: 'A job’s days at the strip', query: pageQuery, answer: visitPage }),
  create({
    id: 'createVisit',
    path: '/jobs/{id}/visits',
    summary: 'A new day at the strip',
    body: visitBody,
    answer: storedVisit,
    versioned: true,
  }),
  read({ id: 'readVisit', path: '/visits/{id}', summary: 'One day at the strip', answer: storedVisit, versioned: true }),
  change({
    id: 'updateVisit',
    path: '/visits/{id}',
    summary: 'Saves a day over the version named in If-Match',
    body: visitBody,
    answer: storedVisit,
  }),
  trash('trashVisit', '/visits/{id}', 'a day into the trash'),
  read({ id: 'listPasses', path: '/visits/{id}/passes', summary: 'The passes of a day', query: pageQuery, answer: passPage }),
  create({
    id: 'createPass',
    path: '/visits/{id}/passes',
    summary: 'A pass of a day',
    body: passBody,
    answer: storedPass,
    versioned: true,
  }),
  read({ id: 'readPass', path: '/passes/{id}', summary: 'One pass', answer: storedPass, versioned: true }),
  change({
    id: 'updatePass',
    path: '/passes/{id}',
    summary: 'Saves a pass over the version named in If-Match',
    body: passBody,
    answer: storedPass,
  }),
  trash('trashPass', '/passes/{id}', 'a pass into the trash'),
] as const satisfies readonly Operation[];

/** Schemas with a name of their own in the document. */
export const COMPONENTS: readonly (readonly [name: string, schema: z.ZodType])[] = [
  ['Problem', problemAnswer],
  ['Job', storedJob],
  ['JobLine', jobLine],
  ['JobPage', jobPage],
  ['NewJob', newJob],
  ['JobBody', jobBody],
  ['Unit', storedUnit],
  ['UnitPage', unitPage],
  ['UnitBody', unitBody],
  ['Run', storedRun],
  ['RunPage', runPage],
  ['RunBody', runBody],
  ['RunWithChannels', runAnswer],
  ['Upload', uploadAnswer],
  ['Visit', storedVisit],
  ['VisitPage', visitPage],
  ['VisitBody', visitBody],
  ['Pass', storedPass],
  ['PassPage', passPage],
  ['PassBody', passBody],
  ['SolveRequest', solveRequest],
  ['Solved', solveAnswer],
  ['Comparison', comparisonAnswer],
  ['Done', nothing],
];

/** Every code that a problem may carry, and what it means. */
export const PROBLEMS: Readonly<Record<string, string>> = {
  not_found: 'There is no such thing (any more), or no such path',
  method_not_allowed: 'The path is there, not this method; Allow names those that are',
  not_acceptable: 'The answer comes as none of the types that Accept names',
  unsupported_type: 'The body is of a type that this operation does not take',
  too_large: 'The body, or what it unpacks to, is larger than is taken',
  too_many_requests: 'Too many requests in a minute; Retry-After says when to come again',
  key_needed: 'Writing needs a key of this installation',
  key_too_weak: 'The key may not do this: it only reads, or it is for one job',
  sign_in: 'This shop has a passphrase: a key or a session is needed for reading too',
  unknown_parameter: 'The query has a parameter that this operation does not know',
  invalid: 'The query or the body is not what it should be; the message says where',
  not_json: 'The body is not JSON',
  version_needed: 'A write needs If-Match with the version it changes, as the ETag of a read gave it',
  stale: 'Somebody else saved this in the meantime; `current` is theirs',
  idempotency_reused: 'This Idempotency-Key came with another request before',
  in_progress: 'The first request with this Idempotency-Key is still being worked on',
  no_comparison: 'This job has no runs of both sides that could be compared yet',
  empty_file: 'The file is empty',
  not_text: 'The file is of a kind that holds no table',
  no_numeric_column: 'The file holds no column of figures',
  too_many_cells: 'The table is wider than is taken',
  which_table: 'The file holds several tables: name one with `table`',
  container: 'The container cannot be read; the message says why',
  busy: 'Too much comes in at once; Retry-After says when to come again',
  silent: 'The upload stopped coming',
  unstorable_text: 'A text holds a NUL or half a letter, which cannot be kept',
  disk_full: 'The database has no room',
  pieces_lost: 'The database stopped while a file came in, and a part of it is lost: send it again',
  database_away: 'The database cannot be reached just now',
  failed: 'Something went wrong on the server',
};
