import type { Metadata } from 'next';
import { TestStop } from '@/features/test/test-stop';

export const metadata: Metadata = { title: 'Test' };

export default function Page() {
  return <TestStop />;
}
