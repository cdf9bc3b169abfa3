/** The look of the public pages, from the same tokens as the rest; a few kilobytes in all. */
import { day, type } from '#core/look/tokens'

export const publicCss = `
*{box-sizing:border-box}
body{margin:0;background:${day.ceiling};color:${day.ink};font:17px/1.55 ${type.plain}}
main{max-width:620px;margin:6vh auto 24px;padding:40px 44px;background:${day.paper};border:1px solid ${day.line};border-radius:8px;border-top:6px solid ${day.dusk}}
h1{font-size:31px;line-height:1.2;margin:0 0 16px;text-wrap:balance}
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
.consent{font-size:14px;color:${day.inkSecond};margin:14px 0 0}
.choice{display:flex;gap:20px;align-items:center;justify-content:space-between;margin:0;padding:14px 0;border-top:1px solid ${day.lineLight}}
.choice p{margin:0}
.aside{position:absolute;left:-9999px}
footer{max-width:620px;margin:0 auto 40px;padding:0 16px;font-size:13px;color:${day.inkSecond};text-align:center}
@media(max-width:560px){main{margin:0;border:0;border-top:6px solid ${day.dusk};border-radius:0;padding:28px 20px}.choice{display:block}.choice p{margin-bottom:10px}button{width:100%}}
`.trim()
