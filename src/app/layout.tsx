import type { Metadata } from 'next';
import { connection } from 'next/server';
import type { ReactNode } from 'react';
import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource/atkinson-hyperlegible-mono/index.css';
import '@/ui/theme/theme.scss';
import { EngineProvider } from '@/ui/engine';

export const metadata: Metadata = {
  description: 'Install game mods calmly, and put everything back.',
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Rendered for each request, so that every script tag carries that request's nonce.
  await connection();
  return (
    <html lang="en" data-bs-theme="light" suppressHydrationWarning>
      <body>
        <EngineProvider>{children}</EngineProvider>
      </body>
    </html>
  );
}
