import { VerdictStop } from '@/features/verdict/stop';

export default function Page() {
  return <VerdictStop />;
}
