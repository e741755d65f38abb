import 'server-only';
import { cookies } from 'next/headers';
import { UNIT_PACKS, type PackName } from '@/core/units/measures';
import { PERSON_COOKIE } from '@/core/person-cookie';
import { isZone } from '../dates';
import { THEMES, type ThemeName } from './tokens';

const oneOf = <T extends string>(value: string | undefined, known: readonly T[], otherwise: T): T =>
  known.find((k) => k === value) ?? otherwise;

/** The reader's choices as the request carries them. */
export async function readPrefs(shopPack: PackName = 'metric'): Promise<{ pack: PackName; theme: ThemeName; zone: string }> {
  const jar = await cookies();
  // As it comes out of the jar it is decoded.
  const zone = jar.get('vanner-zone')?.value ?? '';
  return {
    pack: oneOf(jar.get('vanner-units')?.value, UNIT_PACKS, shopPack),
    theme: oneOf(jar.get('vanner-theme')?.value, THEMES, 'light'),
    // Before a browser has said where it is, dates are those of this machine.
    zone: isZone(zone) ? zone : Intl.DateTimeFormat().resolvedOptions().timeZone,
  };
}

/** Whose name stands under what is saved from this screen; empty until somebody says. */
export async function readPerson(): Promise<string> {
  return (await cookies()).get(PERSON_COOKIE)?.value.slice(0, 60) ?? '';
}
