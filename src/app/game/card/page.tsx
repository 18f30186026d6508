import { CardView } from '@/ui/card/CardView';

export default function CardPage() {
  return <CardView />;
}
