'use client';

import { DatePicker, TimePicker } from 'antd';
import dayjs from 'dayjs';
import customParseFormat from 'dayjs/plugin/customParseFormat';
import { msg } from './messages';

dayjs.extend(customParseFormat);

const DAY = 'YYYY-MM-DD';
const TIME = 'HH:mm';
/** Shown with the month in words; typed in any of these. */
const DAY_FORMATS = ['D MMM YYYY', DAY, 'D.M.YYYY', 'D. MMM YYYY'];
const TIME_FORMATS = [TIME, 'H:mm', 'H.mm', 'HHmm'];

interface Props {
  readonly label: string;
  readonly value: string | null;
  readonly onChange: (value: string | null) => void;
  readonly id?: string;
}

/** A day, as "2026-04-18"; null: not said. */
export function DayField({ label, value, onChange, id }: Props) {
  return (
    <DatePicker
      aria-label={label}
      {...(id !== undefined && { id })}
      style={{ width: '100%' }}
      format={DAY_FORMATS}
      placeholder={msg.n18Apr2026}
      needConfirm={false}
      value={value ? dayjs(value, DAY) : null}
      onChange={(d) => onChange(d ? d.format(DAY) : null)}
    />
  );
}

/** A time of day, as "14:05"; null: not said. */
export function TimeField({ label, value, onChange, id }: Props) {
  return (
    <TimePicker
      aria-label={label}
      {...(id !== undefined && { id })}
      style={{ width: '100%' }}
      format={TIME_FORMATS}
      placeholder="14:05"
      needConfirm={false}
      value={value ? dayjs(value, TIME) : null}
      onChange={(t) => onChange(t ? t.format(TIME) : null)}
    />
  );
}
