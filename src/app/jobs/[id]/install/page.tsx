import { InstallStop } from '@/features/install/stop';

export default function Page() {
  return <InstallStop />;
}
