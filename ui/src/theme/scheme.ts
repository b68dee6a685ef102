const dark = window.matchMedia('(prefers-color-scheme: dark)')
let wish = 'system'

function paint() {
  document.documentElement.classList.toggle('dim', wish === 'dim' || (wish === 'system' && dark.matches))
}
dark.addEventListener('change', paint)
paint()

/** Follows the studio's wish: light, dim or system. */
export function setScheme(scheme: string) {
  wish = scheme
  paint()
}
