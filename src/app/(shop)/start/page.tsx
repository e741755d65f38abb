import type { Metadata } from 'next';
import { StartPage } from '@/features/start/start-page';

export const metadata: Metadata = { title: 'Size a throttle' };

export default function Page() {
  return <StartPage />;
}
