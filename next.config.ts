import type { NextConfig } from 'next'

const config: NextConfig = {
  images: { unoptimized: true },
  poweredByHeader: false,
  // They bring files of their own along: a worker, and what speaks to the ports of the machine.
  serverExternalPackages: ['piscina', 'serialport'],
  // Browsers that find no icon on a page yet ask for this one.
  rewrites: async () => [{ source: '/favicon.ico', destination: '/icon.svg' }],
  headers: async () => [
    {
      source: '/:path*',
      headers: [
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'no-referrer' },
        { key: 'X-Frame-Options', value: 'DENY' },
      ],
    },
    {
      // Kept files bring a stricter policy of their own.
      source: '/((?!api/files/).*)',
      headers: [
        // Scripts of our own only; the framework writes small inline ones of its own, and the chart sets styles.
        {
          key: 'Content-Security-Policy',
          value:
            "default-src 'self'; script-src 'self' 'unsafe-inline'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; worker-src 'self' blob:; connect-src 'self'; object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'",
        },
      ],
    },
  ],
}

export default config
