import type { Metadata } from 'next';
import { TestStop } from '@/features/test/stop';

export const metadata: Metadata = { title: 'Test' };

export default function Page() {
  return <TestStop />;
}
