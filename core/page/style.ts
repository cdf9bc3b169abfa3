/** The look of the public pages, from the same tokens as the rest; a few kilobytes in all. */
import { day, type } from '#core/look/tokens'

/** One variable font, in two files: the second is only fetched where a letter of it is on the page. */
const FONT = '/fonts/atkinson-hyperlegible-next'
const face = (part: string, range: string) => `@font-face{font-family:'Atkinson Hyperlegible Next Variable';src:url(${FONT}-${part}-wght-normal.woff2) format('woff2');font-weight:200 800;font-display:swap;unicode-range:${range}}`
const faces = [
  face('latin-ext', 'U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C0,U+2113,U+2C60-2C7F,U+A720-A7FF'),
  face('latin', 'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD'),
].join('\n')

export const publicCss = `
${faces}
*{box-sizing:border-box}
body{margin:0;background:${day.ceiling};color:${day.ink};font:17px/1.55 ${type.body}}
main{max-width:620px;margin:6vh auto 24px;padding:40px 44px;background:${day.paper};border:1px solid ${day.line};border-radius:8px;border-top:6px solid ${day.dusk}}
h1{font-size:32px;line-height:1.18;letter-spacing:-.01em;margin:0 0 16px;text-wrap:balance}
h2{font-size:22px;line-height:1.3;margin:28px 0 8px}h3{font-size:18px;margin:24px 0 8px}
p{margin:0 0 14px}a{color:${day.door}}
form{margin-top:28px}
.field{margin-bottom:16px}
label{display:block;font-size:15px;font-weight:600;margin-bottom:5px}
input{width:100%;font:inherit;padding:10px 12px;border:1px solid ${day.inkThird};border-radius:6px;background:${day.paper};color:inherit}
input[aria-invalid]{border-color:${day.brick};border-width:2px}
button{font:inherit;font-weight:600;padding:12px 22px;border:0;border-radius:6px;background:${day.door};color:${day.doorText};cursor:pointer}
button:hover{background:${day.doorHover}}
button.quiet{background:${day.paper};color:${day.door};border:1px solid ${day.line};white-space:nowrap}
button.quiet:hover{border-color:${day.door}}
:focus-visible{outline:3px solid ${day.lamp};outline-offset:2px}
.problem{color:${day.brick};font-size:15px;margin:6px 0 0}
.done{background:${day.spruceGround};color:${day.spruce};padding:10px 14px;border-radius:6px}
.look-for{border-left:3px solid ${day.lamp};padding-left:14px;color:${day.inkSecond}}
.consent{font-size:14px;color:${day.inkSecond};margin:14px 0 0}
.choice{display:flex;gap:20px;align-items:center;justify-content:space-between;margin:0;padding:14px 0;border-top:1px solid ${day.lineLight}}
.choice p{margin:0}
.aside{position:absolute;left:-9999px}
footer{max-width:620px;margin:0 auto 40px;padding:0 16px;font-size:13px;color:${day.inkSecond};text-align:center}
@media(max-width:560px){main{margin:0;border:0;border-top:6px solid ${day.dusk};border-radius:0;padding:28px 20px}.choice{display:block}.choice p{margin-bottom:10px}button{width:100%}}
`.trim()
