import { TestStop } from '@/features/test/stop';

export default function Page() {
  return <TestStop />;
}
