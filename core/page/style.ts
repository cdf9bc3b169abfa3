/** The looks of the public pages; a few kilobytes in all. */
import { day, night } from '#core/theme/tokens'
import { PAGE_COLOURS, PAGE_NIGHTS, PAGE_TYPES, PAGE_WIDTHS, type PageColours } from './theme'

/** One variable font, in two files: the second is only fetched where a letter of it is on the page. */
const FONT = '/fonts/atkinson-hyperlegible-next'
const face = (part: string, range: string) =>
  `@font-face{font-family:'Atkinson Hyperlegible Next Variable';src:url(${FONT}-${part}-wght-normal.woff2) format('woff2');font-weight:200 800;font-display:swap;unicode-range:${range}}`
const faces = [
  face(
    'latin-ext',
    'U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C0,U+2113,U+2C60-2C7F,U+A720-A7FF',
  ),
  face(
    'latin',
    'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD',
  ),
].join('\n')

type Colours = Omit<PageColours, 'name'>
const variables = ({ ground, paper, ink, second, line, accent, accentDark, onAccent, wash }: Colours) =>
  `--ground:${ground};--paper:${paper};--ink:${ink};--second:${second};--line:${line};--accent:${accent};--accent-dark:${accentDark};--on-accent:${onAccent};--wash:${wash}`
const colours = Object.entries(PAGE_COLOURS).map(([key, own]) => `.colour-${key}{${variables(own)}}`)
/** Brick is too dark for dark paper. */
const darkProblems = (page: string) => `${page} .problem{color:${night.brick}}${page} input[aria-invalid]{border-color:${night.brick}}`
const dark = (page: string) => [
  `${page}{color-scheme:dark}`, ...Object.entries(PAGE_NIGHTS).map(([key, own]) => `${page}.colour-${key}{${variables(own)}}`),
  darkProblems(page),
].join('')
const types = Object.entries(PAGE_TYPES)
  .map(([key, { heading, body, weight }]) => `.type-${key}{--heading:${heading};--body:${body};--weight:${weight}}`)
const widths = Object.entries(PAGE_WIDTHS).map(([key, { px }]) => `.width-${key}{--width:${px}px}`)

export const publicCss = `
${faces}
${[...colours, ...types, ...widths].join('\n')}
*{box-sizing:border-box}
body{margin:0;background:var(--ground);color:var(--ink);font:17px/1.55 var(--body)}
main{max-width:calc(var(--width) + 88px);margin:6vh auto 24px;background:var(--paper);border:1px solid var(--line);border-radius:8px;border-top:6px solid var(--accent);overflow:hidden}
.rest{padding:40px 44px}
section{margin:0 0 26px}section:last-child{margin-bottom:0}
h1,h2,h3{font-family:var(--heading);font-weight:var(--weight);text-wrap:balance}
h1{font-size:34px;line-height:1.16;letter-spacing:-.012em;margin:0 0 12px}
.under{font-size:19px;line-height:1.45;color:var(--second);margin:0}
h2{font-size:22px;line-height:1.3;margin:0 0 8px}h3{font-size:18px;margin:20px 0 6px}
.text h2{margin-top:22px}
p{margin:0 0 14px}p:last-child{margin-bottom:0}a{color:var(--accent)}
ul,ol{margin:0 0 14px;padding-left:24px}li{margin-bottom:6px}li::marker{color:var(--accent);font-weight:700}
.points ul{list-style:none;padding:0}.points li{position:relative;padding-left:30px;margin-bottom:9px}
.points ul>li:before{content:"";position:absolute;left:3px;top:.5em;width:14px;height:7px;border:solid var(--accent);border-width:0 0 3px 3px;transform:rotate(-45deg)}
.steps ol{list-style:none;padding:0;counter-reset:step}.steps ol>li{counter-increment:step;position:relative;padding:3px 0 14px 52px;margin:0}
.steps ol>li:before{content:counter(step);position:absolute;left:0;top:0;width:34px;height:34px;border-radius:50%;background:var(--accent);color:var(--on-accent);font-weight:700;display:grid;place-items:center}
.steps ol>li:not(:last-child):after{content:"";position:absolute;left:16px;top:38px;bottom:4px;width:2px;background:var(--line)}
.quote{background:var(--wash);border-radius:8px;padding:22px 26px}
blockquote{margin:0;font:500 20px/1.45 var(--heading)}.who{color:var(--second);font-size:15px;margin:8px 0 0}
.countdown{background:var(--wash);border-radius:8px;padding:16px 22px;text-align:center;font-size:18px}
.countdown strong{white-space:nowrap;font-variant-numeric:tabular-nums}
details,.details{border-top:1px solid var(--line);padding:12px 0}details:last-child,.details:last-child{border-bottom:1px solid var(--line)}summary{cursor:pointer}summary,.summary{font-weight:600}details>div{padding:8px 0 2px 18px}
figure{margin:0}img{display:block;max-width:100%;height:auto;border-radius:6px}figcaption{font-size:14px;color:var(--second);margin-top:6px}
.footer{border-top:1px solid var(--line);padding-top:18px;font-size:15px;color:var(--second)}
.picture-top .apart img{max-height:340px;object-fit:cover}
.apart .picture{margin:0}.apart img{border-radius:0;width:100%}.apart figcaption{padding:6px 44px 0}
@media(min-width:900px){
.picture-left main,.picture-right main{max-width:calc(var(--width) + 88px + 340px);display:grid;grid-template-columns:minmax(260px,.62fr) 1fr}
.picture-right main{grid-template-columns:1fr minmax(260px,.62fr)}.picture-right .apart{order:2}
.picture-left .apart figure,.picture-right .apart figure{height:100%;display:flex;flex-direction:column}.picture-left .apart section,.picture-right .apart section{height:100%}
.picture-left .apart img,.picture-right .apart img{flex:1;min-height:0;object-fit:cover;height:100%}
}
form{margin-top:0}
.field{margin-bottom:16px}
label,legend{display:block;font-size:15px;font-weight:600;margin-bottom:5px;padding:0}
input,select{width:100%;font:inherit;padding:10px 12px;border:1px solid var(--second);border-radius:6px;background:var(--paper);color:inherit}
input[type=checkbox],input[type=radio]{width:20px;height:20px;flex:none;margin:2px 0 0;accent-color:var(--accent)}
fieldset{border:0;margin:0 0 16px;padding:0}
.option,.tick label{display:flex;gap:10px;align-items:flex-start;font-weight:400;font-size:16px;margin-bottom:6px;min-height:24px}
.tick{margin-bottom:14px}
input[aria-invalid]{border-color:${day.brick};border-width:2px}
button{font:inherit;font-weight:600;padding:12px 22px;border:0;border-radius:6px;background:var(--accent);color:var(--on-accent);cursor:pointer}
button:hover{background:var(--accent-dark)}
button.quiet{background:var(--paper);color:var(--accent);border:1px solid var(--line);white-space:nowrap}
button.quiet:hover{border-color:var(--accent)}
:focus-visible{outline:3px solid var(--accent);outline-offset:2px}
.problem{color:${day.brick};font-size:15px;margin:6px 0 0}
${darkProblems('.colour-evening')}
.done{background:var(--wash);border-left:4px solid var(--accent);padding:10px 14px;border-radius:6px;margin-bottom:16px}
.turn fieldset{margin-bottom:20px}.turn legend{font-size:19px;margin-bottom:10px}.ways{display:flex;gap:14px;align-items:center;margin:18px 0 0}.ways span{font-size:14px;color:var(--second);margin-left:auto}
.consent{font-size:14px;color:var(--second);margin:14px 0 0}
.look-for{border-left:3px solid var(--accent);padding-left:14px;color:var(--second)}
.onward{list-style:none;padding:0;margin:22px 0 0}.onward li{border-top:1px solid var(--line);margin:0}.onward a{display:block;padding:13px 0;font-weight:600}
.choice{display:flex;gap:20px;align-items:center;justify-content:space-between;margin:0;padding:14px 0;border-top:1px solid var(--line)}
.choice p,.choice .field{margin:0}.choice .field{flex:1}h1+.under{margin-bottom:14px}
.own{overflow-wrap:anywhere;font-size:14px}
.aside{position:absolute;left:-9999px}
.offer{background:var(--wash);border-radius:8px;padding:22px 26px}.price{font-size:22px;margin:0 0 12px}.price strong{font-family:var(--heading);font-weight:var(--weight)}.price s{display:block;font-size:16px;color:var(--second)}.price .cut,.stands{font-size:15px;color:var(--second)}.price .cut{display:block}.pay fieldset{margin-top:22px}
.receipt-head{border-collapse:collapse;margin:0 0 18px}.receipt-head td{padding:2px 16px 2px 0;vertical-align:top}.receipt-head td:first-child{color:var(--second)}.receipt{width:100%;border-collapse:collapse;margin:0 0 14px}.receipt td{padding:6px 0;border-bottom:1px solid var(--line);vertical-align:top}.receipt td:last-child{text-align:right;white-space:nowrap;padding-left:16px}.receipt .total{font-weight:700}
.owned{border-top:1px solid var(--line);padding-top:20px}.owned.over{color:var(--second)}.receipts{list-style:none;padding:0}.receipts li{margin:0 0 4px}.fetch{font-weight:600}
[hidden]{display:none}
@media print{.no-print,body>footer{display:none}body{background:none}main{border:0;margin:0}}
body>footer{max-width:calc(var(--width) + 88px);margin:0 auto 40px;padding:0 16px;font-size:13px;color:var(--second);text-align:center}
@media(prefers-color-scheme:dark){${dark('.night')}}
@media(max-width:560px){main{margin:0;border:0;border-top:6px solid var(--accent);border-radius:0}.rest{padding:28px 20px}h1{font-size:29px}.choice{display:block}.choice p,.choice .field{margin-bottom:10px}button{width:100%}}
`.trim()

/** Only beside and on the canvas: a phone by night; what can be written in says so, and what is hidden is seen to be. */
export const canvasCss = `
${dark('.by-night')}
[data-edit]{outline:none;cursor:text;min-height:1em}
[data-edit]:hover{box-shadow:0 0 0 2px color-mix(in srgb,var(--accent) 25%,transparent);border-radius:3px}
[data-edit]:focus-within{box-shadow:0 0 0 2px var(--accent);border-radius:3px}
[data-edit] .ProseMirror{outline:none;min-height:1em;white-space:pre-wrap;overflow-wrap:anywhere}
[data-edit] .ProseMirror p{margin:0 0 14px}[data-edit] .ProseMirror>:last-child{margin-bottom:0}
[data-as=line] .ProseMirror p,[data-edit] .ProseMirror li p{margin:0}
.as-button,span[data-edit]{min-width:40px}span[data-edit]{display:inline-block}
[data-edit].is-empty{position:relative}
[data-edit].is-empty:not(:focus-within):before{content:attr(data-label);position:absolute;color:var(--second);opacity:.8;font-weight:400;white-space:nowrap}
section.hidden{opacity:.4}
section.chosen{outline:2px solid ${day.lamp};outline-offset:7px;border-radius:2px}
.no-picture{border:2px dashed var(--line);border-radius:8px;padding:60px 20px;text-align:center;color:var(--second)}
.once-over{font-size:15px;color:var(--second)}
.as-button{display:inline-block;font-weight:600;padding:12px 22px;border-radius:6px;background:var(--accent);color:var(--on-accent)}
main{margin-top:24px}
`.trim()
