/** Made from app/pages when the application is built: nuxt.screens.ts. */
declare module '#screens' {
  /** The application's screens: the path, a parameter as `:name`, and the addresses of the scripts and styles it is made of. */
  export const SCREENS: readonly { path: string, parts: string[] }[]
}
