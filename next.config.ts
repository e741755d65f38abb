import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['pg', 'piscina', 'pdfkit'],
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
};

export default config;
