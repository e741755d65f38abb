import type { Metadata } from 'next';
import { connection } from 'next/server';
import { SettingsRoom } from '@/features/settings/settings-room';
import { db } from '@/server/db/client';
import { listensBeyond } from '@/server/guard';
import { sessionKey } from '@/server/passphrase';
import { readShop } from '@/server/shop';

export const metadata: Metadata = { title: 'Settings' };

export default async function Page() {
  await connection();
  const [settings, key] = await Promise.all([readShop(db()), sessionKey(db())]);
  return <SettingsRoom settings={settings} passphrase={key !== null} beyond={listensBeyond()} />;
}
