import { CarStop } from '@/features/car/stop';

export default function Page() {
  return <CarStop />;
}
