import type { ReactNode } from 'react';
import { Shell } from '@/ui/shell/Shell';

export default function GameLayout({ children }: { children: ReactNode }) {
  return <Shell>{children}</Shell>;
}
