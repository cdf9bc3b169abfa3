/** What Saltmarsh Bindery shows and gives: a picture, drawn here, and the sheets of the kit as a small PDF. */

/** A sewn book on a bench by a window on the water, as SVG. */
export const BENCH_PICTURE = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1720 960">
<rect width="1720" height="960" fill="#DCE9E6"/><rect y="610" width="1720" height="350" fill="#B98A5B"/><rect y="610" width="1720" height="14" fill="#8F6740"/>
<rect x="1020" y="70" width="560" height="420" rx="10" fill="#F6EFD9"/><rect x="1044" y="94" width="512" height="372" fill="#A9CAD3"/><path d="M1044 330q130-46 256 0t256-6v142h-512z" fill="#6FA08C"/><circle cx="1430" cy="170" r="46" fill="#F4C56B"/><path d="M1300 94v372M1044 270h512" stroke="#F6EFD9" stroke-width="16"/>
<g transform="translate(300 330)"><path d="M0 60 380 0l340 70v300L380 440 0 372z" fill="#20506B"/><path d="M380 0v440" stroke="#173D53" stroke-width="10"/><path d="M24 82 372 26v384L24 350z" fill="#FBF8EE"/><path d="m388 26 308 62v262L388 412z" fill="#F3EEDC"/>
<g stroke="#C9BFA3" stroke-width="6"><path d="m70 130 260-42M70 180l260-42M70 230l260-42M70 280l260-40M440 92l212 40M440 142l212 40M440 192l212 40M440 242l212 40"/></g>
<g stroke="#A8432F" stroke-width="9" stroke-linecap="round"><path d="M380 60v44M380 150v44M380 240v44M380 330v44"/></g></g>
<g transform="translate(1120 600)"><rect x="0" y="44" width="330" height="22" rx="11" fill="#6B4A2C"/><path d="M330 44h84l60 11-60 11h-84z" fill="#D7D9D6"/><circle cx="120" cy="180" r="74" fill="#A8432F"/><circle cx="120" cy="180" r="26" fill="#F3EEDC"/><path d="M190 200q120 70 250-20" fill="none" stroke="#A8432F" stroke-width="8"/></g>
</svg>`

/** Three soft journals with long stitches, as SVG. */
export const JOURNAL_PICTURE = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1100 1500">
<rect width="1100" height="1500" fill="#E9E2D0"/><rect y="1080" width="1100" height="420" fill="#C7A77B"/><rect y="1080" width="1100" height="16" fill="#A07F55"/>
${[['#7A3B2A', 150, 470, 300, 640, -5], ['#20506B', 430, 330, 330, 780, 2], ['#8A6A12', 720, 540, 260, 560, 7]].map(([fill, x, y, width, height, turn]) => `<g transform="rotate(${turn} ${Number(x) + Number(width) / 2} ${Number(y) + Number(height)})"><rect x="${x}" y="${y}" width="${width}" height="${height}" rx="14" fill="${fill}"/><rect x="${Number(x) + Number(width) - 16}" y="${Number(y) + 12}" width="22" height="${Number(height) - 24}" fill="#FBF8EE"/><rect x="${x}" y="${y}" width="54" height="${height}" rx="12" fill="#000" opacity=".14"/><g stroke="#F2E9D2" stroke-width="7" stroke-linecap="round">${[0, 1, 2, 3].map(n => `<path d="M${Number(x) + 14 + n * 9} ${Number(y) + 60 + n * 14}v${Number(height) / 2 - 110 - n * 6}M${Number(x) + 14 + n * 9} ${Number(y) + Number(height) / 2 + 46}v${Number(height) / 2 - 110}"/>`).join('')}</g><path d="M${Number(x) + Number(width) * 0.62} ${y}v${height}" stroke="#F2E9D2" stroke-width="6" opacity=".8"/></g>`).join('')}
<circle cx="250" cy="1260" r="86" fill="#A8432F"/><circle cx="250" cy="1260" r="30" fill="#F3EEDC"/><path d="M330 1300q180 90 420-10" fill="none" stroke="#A8432F" stroke-width="9"/><path d="M740 1286l150-40 26 6-24 12z" fill="#D7D9D6"/>
</svg>`

/** Twelve sheets to fold, as a PDF of twelve pages (ISO 32000-1, section 7.5): a dashed folding line and a number on each. */
export function sheetKitPdf(): Uint8Array {
  const pages = Array.from({ length: 12 }, (_, n) =>
    `q [6 6] 0 d 421 40 m 421 555 l S Q BT /F1 18 Tf 60 520 Td (Saltmarsh Bindery, sheet ${n + 1} of 12) Tj ET BT /F1 11 Tf 60 496 Td (Fold along the dashes. They vanish inside the spine.) Tj ET`)
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    `<< /Type /Pages /Count ${pages.length} /Kids [${pages.map((_, n) => `${4 + 2 * n} 0 R`).join(' ')}] >>`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
    ...pages.flatMap((content, n) => [
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 842 595] /Resources << /Font << /F1 3 0 R >> >> /Contents ${5 + 2 * n} 0 R >>`,
      `<< /Length ${content.length} >>\nstream\n${content}\nendstream`,
    ]),
  ]
  let body = '%PDF-1.7\n'
  const offsets = objects.map((object, n) => {
    const at = body.length
    body += `${n + 1} 0 obj\n${object}\nendobj\n`
    return at
  })
  const table = offsets.map(at => `${String(at).padStart(10, '0')} 00000 n \n`).join('')
  return new TextEncoder().encode(
    `${body}xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${body.length}\n%%EOF\n`,
  )
}
