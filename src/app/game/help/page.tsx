import { Help } from '@/ui/help/Help';

export default function HelpPage() {
  return <Help />;
}
