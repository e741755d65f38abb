import type { Metadata } from 'next';
import { SumsRoom } from '@/features/sums/sums-room';

export const metadata: Metadata = { title: 'Sums' };

export default function Page() {
  return <SumsRoom />;
}
