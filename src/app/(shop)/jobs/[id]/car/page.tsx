import type { Metadata } from 'next';
import { CarStop } from '@/features/car/car-stop';

export const metadata: Metadata = { title: 'Car' };

export default function Page() {
  return <CarStop />;
}
