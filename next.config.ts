import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['pg', 'piscina', 'pdfkit'],
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // The app alone: what its checks need is not there on a machine that only runs it.
  typescript: { tsconfigPath: 'tsconfig.build.json' },
};

export default config;
