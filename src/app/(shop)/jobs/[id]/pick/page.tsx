import type { Metadata } from 'next';
import { PickStop } from '@/features/pick/pick-stop';

export const metadata: Metadata = { title: 'Pick' };

export default function Page() {
  return <PickStop />;
}
