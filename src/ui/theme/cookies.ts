import 'server-only';
import { cookies } from 'next/headers';
import { UNIT_PACKS, type UnitPack } from '@/core/units/measures';
import { THEMES, type ThemeName } from './tokens';

const oneOf = <T extends string>(value: string | undefined, known: readonly T[], otherwise: T): T =>
  known.find((k) => k === value) ?? otherwise;

/** The reader's choices as the request carries them. */
export async function readPrefs(): Promise<{ pack: UnitPack; theme: ThemeName }> {
  const jar = await cookies();
  return {
    pack: oneOf(jar.get('vanner-units')?.value, UNIT_PACKS, 'metric'),
    theme: oneOf(jar.get('vanner-theme')?.value, THEMES, 'light'),
  };
}
