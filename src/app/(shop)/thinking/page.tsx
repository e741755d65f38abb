import type { Metadata } from 'next';
import { ThinkingRoom } from '@/features/thinking/thinking-room';

export const metadata: Metadata = { title: 'How Vanner thinks' };

export default function Page() {
  return <ThinkingRoom />;
}
