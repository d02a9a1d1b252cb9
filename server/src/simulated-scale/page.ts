const things = [
  ['a thigh', 142.5],
  ['a breast half', 236],
  ['a steak', 184.3],
  ['a light steak', 168.1],
  ['a fillet', 121.4],
  ['a cutlet', 78.6],
  ['an empty tub', 412],
  ['bones', 903],
  ['a crate', 16_200],
] as const

const buttons = things
  .map(([name, grams]) => `<button data-name="${name}" data-grams="${grams}">${name}<b>${grams} g</b></button>`)
  .join('')

/** The simulated scale's own page: things to put on its pan and take off, and troubles to give it. */
export const scalePage = `<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">
<title>Simulated bench scale</title>
<style>
body{margin:0;font:16px/1.4 Barlow,system-ui,sans-serif;background:#dfe5e4;color:#11211f}
main{max-width:640px;margin:24px auto;padding:20px;background:#fcfdfd;border:1px solid #c3cdcb;border-radius:14px}
h1{font-size:20px;margin:0 0 12px}h2{font-size:16px;margin:20px 0 8px}
#weight{font-size:72px;font-weight:600;background:#11211f;color:#fcfdfd;border-radius:10px;padding:6px 20px;text-align:right;font-variant-numeric:tabular-nums}
#weight small{font-size:20px;opacity:.8;margin-left:8px}
.grid{display:grid;grid-template-columns:repeat(3,1fr);gap:8px}
button{min-height:52px;font:inherit;border:1px solid #c3cdcb;border-radius:10px;background:#eef1f0;cursor:pointer}
button b{display:block;font-weight:600}
form{display:flex;gap:8px;margin-top:8px}input{font:inherit;padding:8px;border:1px solid #5b6b69;border-radius:8px;min-width:0;flex:1}
</style>
<main>
<h1>Simulated bench scale</h1>
<div id="weight" role="status">0.0<small>g steady</small></div>
<h2>On the pan (tap to take off)</h2><div id="pan" class="grid"></div>
<h2>Put on</h2><div class="grid">${buttons}</div>
<form><input name="grams" inputmode="decimal" aria-label="Grams" placeholder="any weight, grams"><button>Put on</button></form>
<h2>Trouble</h2>
<div class="grid"><button data-do="clear">Clear the pan</button><button data-do="tare">Tare</button><button data-do="zero">Clear the tare</button>
<button data-do="lose">Pull the plug</button><button data-do="find">Plug it in</button><button data-do="shake">Knock the table</button></div>
</main>
<script>
const ask=(method,path,body)=>fetch(path,{method,body:body&&JSON.stringify(body)}).then(r=>r.json()).then(show)
function show(s){if(!s.reading)return
document.getElementById('weight').innerHTML=s.isConnected?s.reading.grams.toFixed(1)+'<small>g '+s.reading.state+(s.reading.tareGrams?', tare '+s.reading.tareGrams:'')+'</small>':'unplugged'
const pan=document.getElementById('pan');pan.replaceChildren(...s.things.map(t=>{const b=document.createElement('button');b.textContent=t.name+' '+t.grams+' g';b.onclick=()=>ask('DELETE','/things/'+t.id);return b}))}
document.addEventListener('click',e=>{const b=e.target.closest('button');if(!b)return
if(b.dataset.grams)ask('POST','/things',{name:b.dataset.name,grams:Number(b.dataset.grams)})
const d=b.dataset.do
if(d==='clear')ask('DELETE','/things');if(d==='tare')ask('POST','/tare');if(d==='zero')ask('POST','/clear-tare')
if(d==='lose')ask('POST','/behave',{isConnected:false});if(d==='find')ask('POST','/behave',{isConnected:true})
if(d==='shake'){ask('POST','/behave',{noiseGrams:3});setTimeout(()=>ask('POST','/behave',{noiseGrams:0.04}),1500)}})
document.querySelector('form').onsubmit=e=>{e.preventDefault();const g=Number(e.target.grams.value.replace(',','.'));if(g>0){ask('POST','/things',{name:'a piece',grams:g});e.target.reset()}}
setInterval(()=>ask('GET','/state').catch(()=>{}),200)
</script></html>`
