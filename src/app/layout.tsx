import type { Metadata, Viewport } from 'next';
import { headers } from 'next/headers';
import { preload } from 'react-dom';
import { NuqsAdapter } from 'nuqs/adapters/next/app';
import type { ReactNode } from 'react';
import '@fontsource/barlow/400.css';
import '@fontsource/barlow/500.css';
import '@fontsource/barlow/600.css';
import '@fontsource/barlow-condensed/500.css';
import '@fontsource/barlow-condensed/600.css';
import '@fontsource/noto-sans-math/400.css';
import 'antd/dist/antd.css';
import '@/ui/theme/before-fonts.css';
import '@/ui/theme/global.css';
import '@/ui/theme/touch.css';
import { shopNow } from '@/server/shop-now';
import { localeOf } from '@/ui/dates';
import { Early } from '@/ui/early/replay';
import { EARLY_SCRIPT } from '@/ui/early/script';
import { readPrefs } from '@/ui/theme/cookies';
import { PrefsProvider } from '@/ui/theme/prefs';
import { StyleRegistry } from '@/ui/theme/style-registry';

/** What every page's first lines are set in: asked for with the page, not once its styles are read. */
const FIRST_FONTS = [
  new URL('@fontsource/barlow/files/barlow-latin-400-normal.woff2', import.meta.url),
  new URL('@fontsource/barlow/files/barlow-latin-600-normal.woff2', import.meta.url),
  new URL('@fontsource/barlow-condensed/files/barlow-condensed-latin-600-normal.woff2', import.meta.url),
];

export const metadata: Metadata = {
  title: { default: 'Vanner', template: '%s · Vanner' },
  description: 'Sizes, fits and proves throttle bodies.',
};
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Reading a header keeps every page dynamic: each answer carries the nonce of its own content policy.
  for (const font of FIRST_FONTS) preload(font.pathname, { as: 'font', type: 'font/woff2', crossOrigin: 'anonymous' });
  const head = await headers();
  const shop = await shopNow();
  const { pack, theme, zone } = await readPrefs(shop.pack);
  return (
    <html lang="en" data-theme={theme}>
      <head>
        {/* A browser hides a nonce from the page's own scripts. */}
        <script nonce={head.get('x-nonce') ?? undefined} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: EARLY_SCRIPT }} />
      </head>
      <body>
        <StyleRegistry>
          <PrefsProvider
            pack={pack}
            theme={theme}
            currency={shop.currency}
            own={shop.units}
            shopName={shop.name}
            locale={localeOf(head.get('accept-language'))}
            zone={zone}
          >
            <NuqsAdapter>{children}</NuqsAdapter>
            <Early />
          </PrefsProvider>
        </StyleRegistry>
      </body>
    </html>
  );
}
