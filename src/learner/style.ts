import { PALETTE_STYLE } from '@/ui/theme/palette'
import { desk } from '@/ui/theme/tokens'

/** How a practice page looks; its fonts are put before it where the page is made. */
export const STYLE = `
${PALETTE_STYLE}
*{box-sizing:border-box}
html{-webkit-text-size-adjust:100%}
body{margin:0;background:${desk.paper};color:${desk.ink};font:16px/1.4 Figtree,Letters,system-ui,sans-serif}
h1,h2,h3{font-family:Bricolage,Figtree,Letters,system-ui,sans-serif;line-height:1.15;margin:0;overflow-wrap:anywhere}
h1{font-size:28px}h2{font-size:20px}h3{font-size:17px}
p{margin:0}
p[role=status].told{display:flex;flex-wrap:wrap;gap:8px;align-items:center}
button,select,input{font:inherit;color:inherit}
button,select,input[type=text]{min-height:44px;border:1.5px solid ${desk.line};border-radius:11px;background:${desk.card};padding:6px 14px}
button{cursor:pointer}
button[aria-pressed=true]{border-color:${desk.azalea};background:${desk.azaleaSoft};font-weight:650}
button.strong{background:${desk.azalea};border-color:${desk.azalea};color:${desk.on};font-weight:650}
button:disabled{opacity:.55;cursor:default}
:focus-visible{outline:3px solid ${desk.azalea};outline-offset:2px}
input[type=range]{width:100%;min-height:44px;accent-color:${desk.azalea}}
.quiet{color:${desk.quiet};font-size:14.5px}
.problem{color:${desk.danger}}
.page{display:grid;grid-template-columns:minmax(0,1fr);gap:18px;padding:18px 16px 240px;max-width:1500px;margin:0 auto}
header{display:grid;gap:8px}
.song{display:flex;flex-wrap:wrap;gap:10px;align-items:center;background:${desk.card};border:1px solid ${desk.line};border-radius:14px;padding:12px 14px}
.song p{flex:1 1 220px}
.song input[type=file],.send input[type=file]{position:absolute;width:1px;height:1px;opacity:0}
.song label,.send .file label{display:inline-flex;align-items:center;min-height:44px;padding:6px 14px;border:1.5px solid ${desk.ink};border-radius:11px;cursor:pointer;font-weight:650}
.send .file input:disabled+label{opacity:.55;cursor:default}
.song input:focus-visible+label,.send .file input:focus-visible+label{outline:3px solid ${desk.azalea};outline-offset:2px}
progress{width:100%;accent-color:${desk.azalea}}
.part{display:grid;gap:12px}
.cards{display:grid;grid-template-columns:repeat(auto-fill,minmax(min(100%,300px),1fr));gap:14px;align-items:start}
.card{background:${desk.card};border:1px solid ${desk.line};border-radius:14px;display:grid;gap:2px;padding:6px;scroll-margin:12px 0 260px}
.card>button{display:flex;justify-content:space-between;gap:12px;text-align:left;border:0;font-family:Bricolage,Figtree,Letters,sans-serif;font-weight:700;background:none;padding:6px 10px}
.card>button::first-letter{text-transform:uppercase}
.card>button:focus-visible{outline-offset:-3px;border-radius:11px}
.card>button time{font:400 14px Figtree,Letters,sans-serif;color:${desk.quiet}}
.card>p{padding:0 10px 4px}
.card ol{list-style:none;margin:0;padding:0;display:grid;gap:2px}
.card li button{width:100%;min-height:44px;display:grid;grid-template-columns:34px minmax(0,1fr) auto;gap:6px;align-items:center;text-align:left;border:2px solid transparent;border-radius:9px;padding:4px 8px;background:none}
.card li button[aria-pressed=true]{font-weight:400;background:${desk.azaleaSoft};border-color:transparent}
.card li button.now{border-color:${desk.azalea};background:${desk.card}}
.card li .n{font:700 19px Bricolage,Figtree,Letters,sans-serif}
.card li .w{color:${desk.quiet};font-size:13px}
.card li .c span{display:block;overflow-wrap:anywhere}
.card li .c .still{float:right;width:72px;height:44px;object-fit:contain;background:#000;border-radius:7px;margin-left:8px}
.card li .c .turned{transform:scaleX(-1)}
.card li .c small{color:${desk.quiet};font-size:13px}
.card li .c b{font-weight:650;margin-right:5px}
.plan{margin:0;padding:0 10px 6px}
.plan figcaption{color:${desk.quiet};font-size:13.5px}
.plan svg{width:100%;max-width:260px;display:block;border:1px solid ${desk.line};border-radius:9px;color:${desk.quiet}}
.plan rect{fill:${desk.card};stroke:${desk.ink};stroke-width:2}
.plan text{font:700 13px Figtree,Letters,sans-serif;fill:${desk.ink}}
.plan .mine rect{fill:${desk.azalea};stroke:${desk.azalea}}
.plan .mine text{fill:${desk.on}}
.badge{display:inline-block;border-radius:8px;padding:1px 8px;font:650 13px Figtree,Letters,sans-serif;background:${desk.amberSoft};color:${desk.amber};border:1px dashed ${desk.amber}}
.badge.sits{background:${desk.card};color:${desk.leaf};border:1px solid ${desk.leaf}}
.marks{display:grid;gap:8px}
.marks ul{list-style:none;margin:0;padding:0;display:grid;gap:6px}
.marks li{display:flex;flex-wrap:wrap;gap:8px;align-items:center;background:${desk.card};border:1px solid ${desk.line};border-radius:11px;padding:6px 8px 6px 12px}
.marks li span:first-child{flex:1 1 160px}
.send{display:flex;flex-wrap:wrap;gap:10px;align-items:end}
.send label{display:grid;gap:2px;font-size:14.5px}
.dock{position:fixed;inset:auto 0 0 0;max-height:72dvh;overflow-y:auto;background:${desk.card};border-top:1px solid ${desk.line};box-shadow:0 -6px 24px ${desk.shade};padding:10px 14px calc(10px + env(safe-area-inset-bottom));display:grid;grid-template-columns:minmax(0,1fr);gap:8px}
.go{display:grid;grid-template-columns:auto 62px minmax(0,1fr);gap:12px;align-items:center}
.go button{min-height:54px;min-width:92px;font-size:18px}
.go .count{min-height:1em;font:800 46px/1 Bricolage,Figtree,Letters,sans-serif;text-align:center;font-variant-numeric:tabular-nums}
.go .count.in{color:${desk.quiet}}
.go .words{line-height:1.2;max-height:3.6em;overflow:hidden;overflow-wrap:anywhere}
.speed{display:grid;grid-template-columns:44px minmax(0,1fr) 44px 58px;gap:8px;align-items:center}
.speed button{padding:0;font-size:20px}
.speed output{font-weight:650;text-align:right;font-variant-numeric:tabular-nums}
.say{display:grid;grid-template-columns:1fr 1fr auto;gap:8px}
.afar{position:fixed;inset:0;z-index:10;background:${desk.paper};display:grid;grid-template-rows:auto minmax(0,1fr) auto auto;gap:2vh;padding:3vh 4vw calc(3vh + env(safe-area-inset-bottom));overflow:hidden}
.afar .count{min-height:1em;font:800 min(46vh,64vw)/0.9 Bricolage,Figtree,Letters,sans-serif;font-variant-numeric:tabular-nums}
.afar .count.in{color:${desk.quiet}}
.afar .now{font-weight:700;line-height:1.02;overflow-wrap:anywhere;overflow:hidden}
.afar .next{min-height:1.1em;font-size:min(9vw,7vh);line-height:1.1;color:${desk.quiet};overflow-wrap:anywhere;max-height:2.2em;overflow:hidden}
.afar button{min-height:64px;font-size:22px;font-weight:650}
@media (orientation:landscape){.afar{grid-template:minmax(0,1fr) auto auto/auto minmax(0,1fr);column-gap:4vw}.afar .now{align-self:center}.afar .count{grid-row:1/-1;align-self:center;font-size:min(80vh,34vw)}}
details summary{cursor:pointer;min-height:32px;padding:5px 0;font-weight:650}
.more>button{align-self:end}
.more{display:grid;grid-template-columns:repeat(auto-fill,minmax(150px,1fr));gap:10px;padding:6px 0}
.more label{display:grid;gap:2px;font-size:14.5px}
.more label.tick{display:flex;align-items:center;gap:8px;min-height:44px}
.more input[type=checkbox]{width:22px;height:22px;accent-color:${desk.azalea}}
kbd{border:1px solid ${desk.line};border-radius:5px;padding:0 6px;background:${desk.paper};font:inherit;font-size:13.5px}
.hidden{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap}
@media (min-width:1000px){
.page{grid-template-columns:minmax(0,1fr) 350px;grid-template-rows:auto auto 1fr;column-gap:28px;padding:26px 28px 40px}
.page>*{grid-column:1}
.dock{grid-column:2;grid-row:1/span 6;position:sticky;top:20px;align-self:start;max-height:calc(100dvh - 40px);border:1px solid ${desk.line};border-radius:16px;box-shadow:none;padding:16px}
.go{grid-template-columns:auto minmax(0,1fr)}
.go .count{font-size:74px}
.go .words{grid-column:1/-1;min-height:3.6em}
.card{scroll-margin:20px 0}
}
@media (max-height:560px) and (max-width:999px){.page{padding-bottom:180px}.say{display:none}}
@media (prefers-reduced-motion:no-preference){html{scroll-behavior:smooth}}
`
