'use client';

import { Segmented } from 'antd';
import { ENTRIES } from '@/core/flow/bench';
import type { BenchRanked, rankBench } from '@/core/flow/bench-rank';
import { coarse } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { INCH_OF_WATER_Pa } from '@/core/units/units';
import { benchWorking } from '@/core/working/bench-working';
import { Term } from '@/features/thinking/term';
import { Heading } from '@/ui/answer/stop-page';
import { DataTable } from '@/ui/table/data-table';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { DEPRESSIONS_Pa } from './new-record';
import styles from './bench.module.css';
import { msg } from './messages';

const entryWord = (K: number): string => ENTRIES.find((e) => e.value === K)?.label ?? `entry K ${K}`;

/** Records of one bench and entry, ranked at one depression. */
function RecordTable({
  entries,
  at_Pa,
  chosen,
  onSelect,
}: {
  entries: readonly BenchRanked[];
  at_Pa: number;
  chosen: string | null;
  onSelect: (subject: string) => void;
}) {
  const { pack } = usePrefs();
  const best = entries[0]?.moved_m3ps ?? 1;
  const subjectOf = (r: BenchRanked): string => r.id.split('/')[0]!;
  return (
    <DataTable
      name="bench records"
      rows={entries}
      rowKey={(r) => r.id}
      row={(r) => ({ 'data-selected': subjectOf(r) === chosen, 'data-found': subjectOf(r), onClick: () => onSelect(subjectOf(r)) })}
      columns={[
        {
          key: 'part',
          title: msg.part,
          text: (r) => r.name,
          by: (r) => r.name,
          fixed: 'left',
          render: (r) => (
            <button type="button" className="row-name" onClick={() => onSelect(subjectOf(r))}>
              {r.name}
            </button>
          ),
        },
        {
          key: 'bore',
          title: msg.bore,
          numeric: true,
          by: (r) => r.bore_m,
          text: (r) => formatQuantity(r.bore_m, 'bore', pack, coarse('bore', pack)),
        },
        {
          key: 'read',
          title: msg.asRead,
          numeric: true,
          text: (r) => `${formatQuantity(r.flow_m3ps, 'benchFlow', pack)} at ${formatQuantity(r.depression_Pa, 'depression', pack)}`,
        },
        {
          key: 'bar',
          title: '',
          text: () => '',
          tool: true,
          width: 110,
          render: (r) => (
            <span className={styles['barCell']}>
              <i style={{ width: `${(100 * r.moved_m3ps) / best}%` }} />
            </span>
          ),
        },
        {
          key: 'moved',
          title: `at ${formatQuantity(at_Pa, 'depression', pack)}`,
          numeric: true,
          by: (r) => r.moved_m3ps,
          text: (r) => formatQuantity(r.moved_m3ps, 'benchFlow', pack),
          render: (r) => (
            <Num small label={`flow of ${r.name}`} working={() => benchWorking(r)}>
              {formatQuantity(r.moved_m3ps, 'benchFlow', pack)}
            </Num>
          ),
        },
        {
          key: 'ideal',
          title: msg.ofIdeal,
          head: <Term name="of ideal" />,
          numeric: true,
          by: (r) => r.ratio,
          text: (r) => `${formatNumber(100 * r.ratio, 0)} %${r.rating === 'ok' ? '' : ` ${r.rating}`}`,
          render: (r) => (
            <span data-rating={r.rating}>
              {formatNumber(100 * r.ratio, 0)} %{r.rating === 'ok' ? '' : ` ${r.rating}`}
            </span>
          ),
        },
        { key: 'K', title: 'K', numeric: true, by: (r) => r.K, text: (r) => (r.K === null ? '—' : formatNumber(r.K, 3)) },
        {
          key: 'true',
          title: msg.boreOfAnIdealNozzleThat,
          head: msg.trueBore,
          numeric: true,
          by: (r) => r.trueBore_m,
          text: (r) => formatQuantity(r.trueBore_m, 'bore', pack),
        },
      ]}
    />
  );
}

/** Every record moved to one depression, those of one bench ranked. */
export function Ranked({
  groups,
  inches,
  setInches,
  chosen,
  onSelect,
}: {
  groups: ReturnType<typeof rankBench>;
  inches: number;
  setInches: (inches: number) => void;
  chosen: string | null;
  onSelect: (id: string) => void;
}) {
  const { pack } = usePrefs();
  return (
    <>
      <div className={styles['tools']}>
        <span>{msg.allAt}</span>
        <Segmented
          size="small"
          aria-label={msg.allAt}
          value={inches}
          onChange={(v) => setInches(v)}
          options={DEPRESSIONS_Pa.map((d) => ({
            value: Number((d / INCH_OF_WATER_Pa).toFixed(1)),
            label: formatQuantity(d, 'depression', pack),
          }))}
        />
        <span className="quiet">{msg.movedThroughTheIdealNozzleNot}</span>
      </div>
      {groups.map((g) => {
        return (
          <section key={`${g.bench}${g.entryK}`}>
            <Heading more={<span className="quiet">{g.entries.length === 1 ? 'alone: nothing fair to rank it with' : 'ranked'}</span>}>
              {g.bench}, {entryWord(g.entryK)}
            </Heading>
            <RecordTable entries={g.entries} at_Pa={inches * INCH_OF_WATER_Pa} chosen={chosen} onSelect={onSelect} />
          </section>
        );
      })}
    </>
  );
}
