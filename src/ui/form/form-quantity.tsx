'use client';

import type { MeasureName } from '@/core/units/measures';
import { QuantityInput } from '../field/quantity-input';

/** Our own field for figures as a control of Ant Design's Form: the form hands it its value. */
export function FormQuantity({
  label,
  measure,
  value = null,
  onChange = () => {},
  id,
}: {
  label: string;
  measure: MeasureName;
  value?: number | null;
  onChange?: (si: number) => void;
  id?: string;
}) {
  // What it may be is a rule of the form, and so is that there is a figure: what cannot be read is none, not the one before it.
  return (
    <QuantityInput
      within={{}}
      label={label}
      measure={measure}
      value={value}
      onChange={onChange}
      onWrong={(text) => text !== null && onChange(NaN)}
      onBack={() => undefined}
      {...(id !== undefined && { id })}
    />
  );
}
