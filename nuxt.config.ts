import { fileURLToPath } from 'node:url'
import { defineNuxtConfig } from 'nuxt/config'
import { controlsCss } from './nuxt.controls'
import { Screens } from './nuxt.screens'

// Not a folder called public: the server would hand its very files to everybody who asks.
const sitePages = fileURLToPath(new URL('./server/site', import.meta.url))

/** Each public address exists twice: for live, and under /practice for practice. */
const inBothWorkspaces = (route: string, method: 'get' | 'post', file: string) =>
  ['', '/practice'].map(prefix => ({ route: `${prefix}${route}`, method, handler: `${sitePages}/${file}` }))

const screens = new Screens()

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  telemetry: false,
  devtools: { enabled: false },
  // The application is for its signed-in owner; public pages are written by the server, without Vue.
  ssr: false,
  spaLoadingTemplate: false,
  modules: ['@pinia/nuxt'],
  // A link in every line of a table would be watched until it comes into sight; those of the wall fetch
  // their screens ahead once a pointer or the focus comes to them.
  experimental: { defaults: { nuxtLink: { prefetch: false } } },
  // What is ours is imported by name, so that a reader sees where it comes from.
  imports: { autoImport: false },
  components: [],
  css: [
    '@fontsource-variable/bricolage-grotesque',
    '@fontsource-variable/atkinson-hyperlegible-next',
    '@fontsource-variable/atkinson-hyperlegible-mono',
    'primeicons/primeicons.css',
    // Ours come after PrimeVue's, so that ours win where both set a property.
    '#build/controls.css',
    '~/theme/base.css',
    '~/theme/parts.css',
  ],
  app: {
    head: {
      htmlAttrs: { lang: 'en' },
      title: 'Keen Porch',
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }, { name: 'robots', content: 'noindex' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/porch.svg' }],
    },
  },
  serverHandlers: [
    ...inBothWorkspaces('/p/:slug', 'get', 'page.get.ts'),
    ...inBothWorkspaces('/p/:slug', 'post', 'page.post.ts'),
    ...inBothWorkspaces('/p/:slug/thanks', 'get', 'thanks.get.ts'),
    ...inBothWorkspaces('/p/:slug/form', 'get', 'form.get.ts'),
    ...inBothWorkspaces('/p/:slug/wait', 'get', 'wait.get.ts'),
    ...inBothWorkspaces('/s/:slug', 'get', 'offer.get.ts'),
    ...inBothWorkspaces('/s/:slug', 'post', 'offer.post.ts'),
    ...inBothWorkspaces('/s/:slug/thanks', 'get', 'offerThanks.get.ts'),
    ...inBothWorkspaces('/hooks/payments', 'post', 'payments.post.ts'),
    ...inBothWorkspaces('/hooks/in/:token', 'post', 'hookIn.post.ts'),
    ...inBothWorkspaces('/b/:token', 'get', 'buyer.get.ts'),
    ...inBothWorkspaces('/b/:token/file/:purchase', 'get', 'buyerFile.get.ts'),
    ...inBothWorkspaces('/b/:token/receipt/:payment', 'get', 'buyerReceipt.get.ts'),
    ...inBothWorkspaces('/b/:token/end/:purchase', 'post', 'buyerEnd.post.ts'),
    ...['/v1/**', '/practice/v1/**'].map(route => ({ route, handler: fileURLToPath(new URL('./server/open/v1.ts', import.meta.url)) })),
    // Only practice has a payment stand-in.
    { route: '/practice/pay/:token', method: 'get', handler: `${sitePages}/pay.get.ts` },
    { route: '/practice/pay/:token', method: 'post', handler: `${sitePages}/pay.post.ts` },
    ...inBothWorkspaces('/i/:name', 'get', 'picture.get.ts'),
    ...inBothWorkspaces('/c/:token', 'get', 'confirm.get.ts'),
    ...inBothWorkspaces('/c/:token', 'post', 'confirm.post.ts'),
    ...inBothWorkspaces('/w/:token', 'get', 'waiting.get.ts'),
    ...inBothWorkspaces('/w/:token', 'post', 'waiting.post.ts'),
    ...inBothWorkspaces('/a/:token', 'get', 'address.get.ts'),
    ...inBothWorkspaces('/a/:token', 'post', 'address.post.ts'),
    ...inBothWorkspaces('/f/:token', 'get', 'file.get.ts'),
    ...inBothWorkspaces('/e/:token', 'get', 'sentFile.get.ts'),
    ...inBothWorkspaces('/v/:token', 'get', 'view.get.ts'),
    ...inBothWorkspaces('/letters', 'get', 'letters.get.ts'),
    ...inBothWorkspaces('/letters/feed.xml', 'get', 'lettersFeed.get.ts'),
    ...inBothWorkspaces('/letters/:id', 'get', 'letter.get.ts'),
    ...inBothWorkspaces('/letters/copy/:code', 'get', 'letterCopy.get.ts'),
    ...inBothWorkspaces('/o/:token', 'get', 'open.get.ts'),
    ...inBothWorkspaces('/l/:token', 'get', 'link.get.ts'),
    ...inBothWorkspaces('/k/:token', 'get', 'ask.get.ts'),
    ...inBothWorkspaces('/k/:token', 'post', 'ask.post.ts'),
    ...inBothWorkspaces('/q/:token', 'get', 'answer.get.ts'),
    ...inBothWorkspaces('/q/:token', 'post', 'answer.post.ts'),
    ...inBothWorkspaces('/m/:token', 'get', 'choices.get.ts'),
    ...inBothWorkspaces('/m/:token', 'post', 'choices.post.ts'),
    ...['/public.css', '/canvas.css'].map(route => ({ route, method: 'get' as const, handler: `${sitePages}/css.get.ts` })),
  ],
  hooks: {
    'app:templates': app => void app.templates.push({ filename: 'controls.css', write: true, getContents: controlsCss }),
    'vite:extendConfig': (config, { isClient }) => {
      if (isClient) Object.assign(config.build!.rollupOptions!.output!, screens.files())
    },
    'build:manifest': manifest => screens.takeParts(manifest),
    'pages:resolved': pages => screens.takePages(pages),
  },
  nitro: {
    imports: false,
    errorHandler: fileURLToPath(new URL('./server/error.ts', import.meta.url)),
    virtual: { '#screens': () => screens.toModule() },
    compressPublicAssets: true,
    // Packages are not copied beside the server: it must load the very same database library as its reading threads. With two
    // copies in one process the locks of one are lost on the other, and a read can see a file that is being rewritten.
    externals: { trace: false },
    // Nor are the rooms below the server: what bundles both afterwards (tools/bundle.mjs) reads them, too, and sooner.
    rollupConfig: { plugins: [{
      name: 'rooms-apart',
      resolveId: (id: string) => /^#(?:adapters|core|data|runtime|standins|usecases)\//.test(id)
        ? { id: new URL(`./${id.slice(1)}.ts`, import.meta.url).href, external: true }
        : undefined,
    }] },
    // The public pages are not part of the application's bundle and get their one font by its name.
    publicAssets: [{
      dir: fileURLToPath(new URL('./node_modules/@fontsource-variable/atkinson-hyperlegible-next/files', import.meta.url)),
      baseURL: '/fonts', maxAge: 31_536_000,
    }],
  },
  vite: {
    build: {
      target: 'es2022',
      // Made when they are read in, they would be kept though nothing here uses them: screens ask by `useApi`.
      rollupOptions: {
        treeshake: { moduleSideEffects: id => !/nuxt\/dist\/app\/composables\/(asyncData|fetch)\.js$/.test(id) },
      },
    },
    plugins: [{
      name: 'where-screens-stand',
      generateBundle: (_, built) => screens.takeFiles(built),
    }, {
      name: 'icons-in-one-format',
      enforce: 'pre',
      // Every browser of today reads the newest; the four older formats would be shipped and never asked for.
      transform: (code, id) => id.includes('primeicons.css')
        ? code.replace(/src: url\('[^']*\.eot'\);\s*src: [^;]*;/, `src: url('./fonts/primeicons.woff2') format('woff2');`)
        : undefined,
    }, {
      name: 'no-styles-in-controls',
      enforce: 'pre',
      // They are in the stylesheet already.
      load: id => /@primeuix\/styles\/dist\//.test(id) ? `export const style = ''` : undefined,
    }, {
      name: 'no-hydration',
      enforce: 'pre',
      // Screens are drawn in the browser alone: what could take over a page that the server drew is never used.
      transform: (code, id) => id.endsWith('nuxt/dist/app/entry.js')
        ? code.replace(/createSSRApp, /, '').replace(/isSSR \? createSSRApp\(RootComponent\) : /, '')
        : undefined,
    }],
  },
})
