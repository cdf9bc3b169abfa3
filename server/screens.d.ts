/** Made from app/pages when the application is built: nuxt.config.ts. */
declare module '#screens' {
  /** Paths of the application's screens, a parameter as `:name`. */
  export const SCREENS: readonly string[]
}
