import type { Metadata } from 'next';
import { VerdictStop } from '@/features/verdict/stop';

export const metadata: Metadata = { title: 'Verdict' };

export default function Page() {
  return <VerdictStop />;
}
