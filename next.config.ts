import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  devIndicators: false,
  // Page and server each know of what they were built.
  env: { SATCHEL_BUILD: process.env.SATCHEL_BUILD ?? 'by hand' },
  // `npm run check` and CI look at the types; whoever starts the app need not wait for it.
  typescript: { ignoreBuildErrors: true },
  sassOptions: { quietDeps: true, silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'] },
  // The archive library and the transcoder of textures ask for Node's own modules where they run in Node; in a browser
  // they never get there.
  turbopack: {
    resolveAlias: Object.fromEntries(['module', 'fs', 'path'].map((name) => [name, { browser: './src/noModule.ts' }])),
    rules: { '**/basis_transcoder.js': { loaders: ['./scripts/basisAsModule.mjs'] } },
  },
  // The worker is a file of its own and brings its own rules along.
  headers: async () => [
    {
      source: '/_next/static/:path*',
      headers: [
        {
          key: 'Content-Security-Policy',
          value: "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'; object-src 'none'",
        },
      ],
    },
  ],
};

export default config;
