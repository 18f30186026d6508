import type { MetadataRoute } from 'next';

/** What the browser needs to know to give the app a window of its own (Web Application Manifest, W3C). */
export default function manifest(): MetadataRoute.Manifest {
  return {
    id: '/',
    name: 'Tidy Satchel',
    short_name: 'Satchel',
    description: 'Install game mods calmly, and put everything back.',
    lang: 'en',
    start_url: '/',
    scope: '/',
    display: 'standalone',
    background_color: '#f1eee7',
    theme_color: '#1f4d49',
    categories: ['utilities'],
    icons: [
      { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
      { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
      { src: '/icon-whole-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
    ],
  };
}
