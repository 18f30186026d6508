import { InGame } from '@/ui/ingame/InGame';

export default function FilesPage() {
  return <InGame />;
}
