import { PGlite } from '@electric-sql/pglite';
let t=Date.now(); const p=await PGlite.create(); console.log('mem create',Date.now()-t);
t=Date.now(); await p.exec('create table a(x int)'); console.log('table',Date.now()-t);
t=Date.now(); const d=await p.dumpDataDir('none'); console.log('dump',Date.now()-t,d.size);
t=Date.now(); const p2=await PGlite.create({loadDataDir:d}); await p2.query('select 1'); console.log('load',Date.now()-t);
t=Date.now(); const p3=await PGlite.create({dataDir:'/tmp/pgx'+Date.now()}); console.log('fs create',Date.now()-t);
