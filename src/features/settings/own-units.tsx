import { Select } from 'antd';
import type { ShopSettings } from '@/core/documents/shop';
import { shownUnit, UNIT_CHOICES } from '@/core/units/measures';
import { unitById } from '@/core/units/units';
import { ControlRow } from '@/ui/field/field-row';
import { msg } from './messages';
import type { SettingsState } from './use-settings';

const AS_THE_PACK = '';

/** Units of single measures that this shop speaks in whatever the pack: a pack is only where they start. */
export function OwnUnits({ doc, save }: { doc: ShopSettings; save: SettingsState['save'] }) {
  const choose = (measures: readonly string[], unit: string): void => {
    save((now) => {
      const rest = Object.fromEntries(Object.entries(now.units).filter(([measure]) => !measures.includes(measure)));
      return { units: unit === AS_THE_PACK ? rest : { ...rest, ...Object.fromEntries(measures.map((m) => [m, unit])) } };
    });
  };
  return (
    <details>
      <summary>
        {msg.unitsOfSingleMeasures}
        {Object.keys(doc.units).length > 0 ? ': some are this shop’s own' : ', as the pack has them'}
      </summary>
      {UNIT_CHOICES.map(({ label, measures, units }) => (
        <ControlRow key={label} label={label}>
          <Select
            aria-label={`Unit of ${label.toLowerCase()}`}
            style={{ width: '100%' }}
            value={doc.units[measures[0]!] ?? AS_THE_PACK}
            options={[
              { value: AS_THE_PACK, label: `as the pack: ${shownUnit(measures[0]!, doc.pack).unit.label}` },
              ...units.map(([id]) => ({ value: id, label: `${unitById(id).label}${unitById(id).airVolume ? ' of the day’s air' : ''}` })),
            ]}
            onChange={(unit: string) => choose(measures, unit)}
          />
        </ControlRow>
      ))}
    </details>
  );
}
