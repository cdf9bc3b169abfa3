/** How wide a phone draws a subject, in pixels: its own letters differ little from these. */

let pen: CanvasRenderingContext2D | null = null

export function widthOfSubject(text: string): number {
  if (!pen) {
    pen = document.createElement('canvas').getContext('2d')!
    pen.font = `600 16px 'Segoe UI', 'Helvetica Neue', Arial, sans-serif`
  }
  return pen.measureText(text).width
}
