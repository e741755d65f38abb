import type { Metadata } from 'next';
import { connection } from 'next/server';
import { SignIn } from '@/features/sign-in/sign-in';
import { db } from '@/server/db/client';
import { readShop } from '@/server/shop';

export const metadata: Metadata = { title: 'Sign in' };

export default async function Page() {
  await connection();
  return <SignIn shop={(await readShop(db())).name} />;
}
