'use client';

import type { StripPassDoc } from '@/core/documents/strip';
import { useShelf } from '@/features/job/provider';
import { msg } from './messages';

const NOT_SAID = '';
const STOCK = 'stock';

const sideOf = (value: string): StripPassDoc['side'] => {
  if (value === NOT_SAID) return null;
  return value === STOCK ? { kind: 'stock' } : { kind: 'unit', unitId: value };
};

/** What was on the car. */
export function SideOfPass({ side, onChange }: { side: StripPassDoc['side']; onChange: (side: StripPassDoc['side']) => void }) {
  const shelf = useShelf();
  const value = side === null ? NOT_SAID : side.kind === 'stock' ? STOCK : side.unitId;
  return (
    <select aria-label={msg.onTheCar} value={value} onChange={(e) => onChange(sideOf(e.target.value))}>
      <option value={NOT_SAID}>{msg.notSaid}</option>
      <option value={STOCK}>{msg.stock}</option>
      {shelf.map((unit) => (
        <option key={unit.id} value={unit.id}>
          {unit.doc.name}
        </option>
      ))}
    </select>
  );
}
