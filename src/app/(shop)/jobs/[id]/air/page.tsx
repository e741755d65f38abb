import { AirStop } from '@/features/air/stop';

export default function Page() {
  return <AirStop />;
}
