import type { Metadata } from 'next';
import { AirStop } from '@/features/air/air-stop';

export const metadata: Metadata = { title: 'Air' };

export default function Page() {
  return <AirStop />;
}
