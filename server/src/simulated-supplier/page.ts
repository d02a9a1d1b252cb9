/** The simulated supplier's own page: its prices, what was ordered, the boxes with their codes, and troubles to give it. */
export const supplierPage = `<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">
<title>Simulated supplier</title>
<style>
body{margin:0;font:16px/1.4 Barlow,system-ui,sans-serif;background:#dfe5e4;color:#11211f}
main{max-width:860px;margin:24px auto;padding:20px;background:#fcfdfd;border:1px solid #c3cdcb;border-radius:14px}
h1{font-size:20px;margin:0 0 12px}h2{font-size:16px;margin:20px 0 8px}
#state{font-size:24px;font-weight:600;background:#11211f;color:#fcfdfd;border-radius:10px;padding:10px 20px}
.grid{display:grid;grid-template-columns:repeat(3,1fr);gap:8px}
button{min-height:52px;font:inherit;border:1px solid #c3cdcb;border-radius:10px;background:#eef1f0;cursor:pointer}
table{width:100%;border-collapse:collapse}td{padding:6px 4px;border-bottom:1px solid #dfe5e4}td:last-child{text-align:right}
.boxes{display:flex;flex-wrap:wrap;gap:14px}.boxes figure{margin:0;width:150px;font-size:12px;overflow-wrap:anywhere}.boxes img{width:96px;height:96px;display:block}
.short{color:#c2410c;font-weight:600}
</style>
<main>
<h1>Simulated supplier</h1>
<div id="state" role="status"></div>
<h2>Trouble</h2>
<div class="grid"><button data-do='{"shortShare":1}'>Every line short</button><button data-do='{"shortShare":0}'>Nothing short</button>
<button data-do='{"shortShare":0.25}'>A quarter short</button><button data-on="30">A month later</button><button data-on="0">Today</button>
<button data-do='{"isOnline":false}'>Off the line</button><button data-do='{"isOnline":true}'>On the line</button></div>
<h2>Prices that day</h2><table id="goods"></table>
<h2>Delivery notes</h2><div id="notes"></div>
</main>
<script>
const ask=(method,path,body)=>fetch(path,{method,body}).then(r=>r.json()).then(show)
const el=(tag,text,cls)=>{const e=document.createElement(tag);if(text!==undefined)e.textContent=text;if(cls)e.className=cls;return e}
let last='',daysOn=0
function show(s){const text=JSON.stringify(s);if(text===last)return;last=text;daysOn=s.daysOn
document.getElementById('state').textContent=(s.isOnline?'':'off the line · ')+s.day+' · '+Math.round(s.shortShare*100)+' % of lines short'
document.getElementById('goods').replaceChildren(...s.goods.map(g=>{const tr=el('tr');tr.append(el('td',g.article),el('td',g.gtin),el('td',g.price.toFixed(2)+' / '+g.unit));return tr}))
document.getElementById('notes').replaceChildren(...s.notes.map(n=>{const box=el('section');box.append(el('h3',n.number+' for order '+n.order+', '+n.kitchen))
n.lines.forEach((l,at)=>{box.append(el('p',l.article+': '+l.sent+' of '+l.ordered+' '+l.unit+(l.why?' ('+l.why+')':''),l.sent<l.ordered?'short':''))
const boxes=el('div',undefined,'boxes');l.boxes.forEach((b,i)=>{const f=el('figure');const img=el('img');img.src='/boxes/'+n.number+'/'+at+'/'+i+'.svg';img.alt='Code of a box of '+l.article
f.append(img,el('code',b.code));boxes.append(f)});box.append(boxes)});return box}))}
document.addEventListener('click',e=>{const b=e.target.closest('button');if(!b)return
ask('POST','/behave',b.dataset.do||JSON.stringify({daysOn:b.dataset.on==='0'?0:daysOn+Number(b.dataset.on)}))})
setInterval(()=>ask('GET','/state').catch(()=>{}),700)
</script></html>`
