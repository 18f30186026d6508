import { Storage } from '@/ui/storage/Storage';

export default function StoragePage() {
  return <Storage />;
}
