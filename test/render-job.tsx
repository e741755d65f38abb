import { render } from '@testing-library/react';
import { NuqsTestingAdapter } from 'nuqs/adapters/testing';
import type { ReactNode } from 'react';
import type { JobDoc, StoredJob } from '@/core/documents/job';
import type { StoredRun } from '@/core/documents/run';
import type { StoredPart, StoredUnit } from '@/core/documents/unit';
import { jobFindings } from '@/core/verdict/findings';
import type { PackName, UnitSet } from '@/core/units/measures';
import { JobProvider } from '@/features/job/provider';
import { PrefsProvider } from '@/ui/theme/prefs';
import { WorkingProvider } from '@/ui/working/provider';
import { DEMO_UNITS, larkspurJob } from '@/server/demo/larkspur';

export const units: StoredUnit[] = DEMO_UNITS.map((doc, i) => ({ id: `unit-${i}`, version: 1, doc }));
export const larkspur: JobDoc = larkspurJob(units.map((u) => u.id));

interface Options {
  readonly doc?: JobDoc;
  /** Units of single measures that are not the pack's. */
  readonly units?: UnitSet['own'];
  readonly pack?: PackName;
  readonly shelf?: readonly StoredUnit[];
  readonly runs?: readonly StoredRun[];
  /** Parts of intakes that were flow-tested. */
  readonly tested?: readonly StoredPart[];
  /** What stands in the address behind the question mark. */
  readonly address?: string;
  /** What the server says to anything but a save of the job, and when; undefined: the save's own answer. */
  readonly answer?: (
    url: string,
    method: string,
    body: unknown,
  ) => { readonly status?: number; readonly body: unknown; readonly after?: Promise<unknown> } | undefined;
}

/** Renders a part of the open job with the demo's car, and remembers every save it tries. */
export function renderJob(
  node: ReactNode,
  { doc = larkspur, pack = 'metric', units: ownUnits = {}, shelf = units, runs = [], tested = [], address = '', answer: own }: Options = {},
): { saves: { doc: JobDoc }[] } {
  const saves: { doc: JobDoc }[] = [];
  let version = 1;
  globalThis.fetch = ((url: string, init?: RequestInit) => {
    const body = JSON.parse(String(init?.body ?? '{}')) as { doc: JobDoc };
    const said = own?.(url, init?.method ?? 'GET', body);
    if (said)
      return (said.after ?? Promise.resolve()).then(() => ({
        ok: (said.status ?? 200) < 400,
        status: said.status ?? 200,
        json: () => Promise.resolve(said.body),
      }));
    saves.push(body);
    version += 1;
    const answer = {
      version,
      savedAt: '2026-04-18T10:00:00Z',
      findings: jobFindings(body.doc, shelf, { stock: 0, other: 0, compared: null }),
    };
    return Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve(answer) } as Response);
  }) as typeof fetch;
  const job: StoredJob = { id: 'job-1', number: 1041, version: 1, savedAt: '2026-04-18T09:14:00Z', archived: false, doc };
  const findings = jobFindings(doc, shelf, { stock: 0, other: 0, compared: null });
  render(
    <NuqsTestingAdapter hasMemory searchParams={address}>
      <PrefsProvider pack={pack} own={ownUnits} theme="light">
        <JobProvider job={job} findings={findings} units={shelf} parts={tested} runs={runs}>
          <WorkingProvider>{node}</WorkingProvider>
        </JobProvider>
      </PrefsProvider>
    </NuqsTestingAdapter>,
  );
  return { saves };
}
