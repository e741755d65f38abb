import { FitStop } from '@/features/fit/stop';

export default function Page() {
  return <FitStop />;
}
