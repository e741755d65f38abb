import { PickStop } from '@/features/pick/stop';

export default function Page() {
  return <PickStop />;
}
