import { analyseSession } from '../core/analysis';
import { demoSessions } from '../core/demo';
import * as T from '../core/ensembles/templates';
import { sessionFrom } from '../core/session';
const show = (s: any) => { console.log('\n##', s.title); for (const f of analyseSession(s).findings) { console.log(' -', f.severity, f.code, '|', f.message, f.fix ? `[${f.fix.label}]` : '', f.others.map((o) => `[${o.label}]`).join('')); for (const m of f.members) console.log('      ·', m.message, m.fix ? `[${m.fix.label}]` : ''); } };
for (const s of demoSessions('2026-11-23T12:00:00.000Z')) show(s);
console.log(Object.keys(T));
