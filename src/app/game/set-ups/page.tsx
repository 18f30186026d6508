import { SetUps } from '@/ui/setup/SetUps';

export default function SetUpsPage() {
  return <SetUps />;
}
