/** The simulated printer's own page: what came out of it, and troubles to give it. */
export const printerPage = `<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">
<title>Simulated label printer</title>
<style>
body{margin:0;font:16px/1.4 Barlow,system-ui,sans-serif;background:#dfe5e4;color:#11211f}
main{max-width:640px;margin:24px auto;padding:20px;background:#fcfdfd;border:1px solid #c3cdcb;border-radius:14px}
h1{font-size:20px;margin:0 0 12px}h2{font-size:16px;margin:20px 0 8px}
#state{font-size:28px;font-weight:600;background:#11211f;color:#fcfdfd;border-radius:10px;padding:10px 20px}
.grid{display:grid;grid-template-columns:repeat(3,1fr);gap:8px}
button{min-height:52px;font:inherit;border:1px solid #c3cdcb;border-radius:10px;background:#eef1f0;cursor:pointer}
li{padding:8px 0;border-bottom:1px solid #dfe5e4}ol{padding-left:20px}a{color:#0b5f56}
</style>
<main>
<h1>Simulated label printer</h1>
<div id="state" role="status"></div>
<h2>Trouble</h2>
<div class="grid"><button data-do='{"labelsLeft":0}'>Out of labels</button><button data-do='{"labelsLeft":500}'>A new roll</button>
<button data-do='{"isOnline":false}'>Switch it off</button><button data-do='{"isOnline":true}'>Switch it on</button></div>
<h2>What came out</h2><ol id="jobs" reversed></ol>
</main>
<script>
const ask=(method,path,body)=>fetch(path,{method,body}).then(r=>r.json()).then(show)
let last=''
function show(s){const text=JSON.stringify(s);if(text===last)return;last=text
document.getElementById('state').textContent=s.isOnline?s.labelsLeft+' labels on the roll':'switched off'
document.getElementById('jobs').replaceChildren(...[...s.jobs].reverse().map(j=>{const li=document.createElement('li');const a=document.createElement('a')
a.href='/jobs/'+j.id+'.pdf';a.textContent=j.labels+(j.labels===1?' label':' labels');a.target='_blank'
li.append(a,' '+(j.state==='completed'?'printed '+new Date(j.at).toLocaleTimeString():'waiting for a roll'));return li}))}
document.addEventListener('click',e=>{const b=e.target.closest('button');if(b)ask('POST','/behave',b.dataset.do)})
setInterval(()=>ask('GET','/state').catch(()=>{}),500)
</script></html>`
