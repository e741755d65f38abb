import type { MetadataRoute } from 'next';

/** What a phone needs to keep the app like one of its own. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: 'Vanner',
    short_name: 'Vanner',
    description: 'Sizes, fits and proves throttle bodies.',
    start_url: '/',
    scope: '/',
    display: 'standalone',
    background_color: '#f5f2ec',
    theme_color: '#f5f2ec',
    icons: [
      { src: '/icons/icon-192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icons/icon-512.png', sizes: '512x512', type: 'image/png' },
      { src: '/icons/maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
    ],
  };
}
