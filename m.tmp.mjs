import sharp from 'sharp'
const [out, w, h, ...files] = process.argv.slice(2)
const W=+w,H=+h, n=files.length, cols=Math.min(n,2)
const comps=[]
for(let i=0;i<n;i++) comps.push({input: await sharp(files[i]).resize(W,H,{fit:'contain',background:'#888'}).toBuffer(), left:(i%cols)*(W+8), top:Math.floor(i/cols)*(H+8)})
await sharp({create:{width:cols*(W+8),height:Math.ceil(n/cols)*(H+8),channels:3,background:'#444'}}).composite(comps).png().toFile(out)
