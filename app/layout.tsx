import type { Metadata, Viewport } from 'next'
import '@/app/globals.css'
import { FollowLinks } from '@/components/frame/follow-links'
import { Queries } from '@/components/frame/query'
import { TopBar } from '@/components/frame/top-bar'
import { TypedBefore } from '@/components/frame/typed-before'

export const metadata: Metadata = {
  title: { default: 'Fresh Coat', template: '%s · Fresh Coat' },
  description: 'From a sealed case to a device in service.',
}
export const viewport: Viewport = { width: 'device-width', initialScale: 1 }

// Before the first paint, so that an evening page never flashes white.
const themeFirst =
  "try{document.documentElement.dataset.theme=localStorage.getItem('fresh-coat:theme')||'day'}catch(e){}"

export default function RootLayout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* biome-ignore lint/security/noDangerouslySetInnerHtml: a constant of ours */}
        <script dangerouslySetInnerHTML={{ __html: themeFirst }} />
      </head>
      <body>
        <Queries>
          <FollowLinks />
          <TopBar mark={process.env.DEMO === '1' ? 'Lantern Yard' : ''} />
          <div id="work" tabIndex={-1} className="outline-none">
            {children}
          </div>
          <TypedBefore />
        </Queries>
      </body>
    </html>
  )
}
