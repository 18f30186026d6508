import { Home } from '@/ui/home/Home';

export default function Page() {
  return <Home demo={process.env.SATCHEL_DEMO === '1'} />;
}
