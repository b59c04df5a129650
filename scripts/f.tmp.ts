import { analyseSession } from '../core/analysis';
import { TEMPLATES, fromTemplate } from '../core/ensembles/templates';
import { sessionFrom } from '../core/session';
const show = (s: any) => { console.log('\n##', s.title); for (const f of analyseSession(s).findings) { if (['cables','phantom'].includes(f.code)) continue; console.log(' -', f.severity, f.code, '|', f.message, f.fix ? `[${f.fix.label}]` : '', f.others.map((o) => `[${o.label}]`).join('')); } };
let n = 0;
for (const t of TEMPLATES) {
  const e: any = fromTemplate(t, () => `id${(n += 1)}`);
  const main = { id: 'main', name: 'Main pair', role: 'main', x: 0, y: -0.8, z: 2.7, tiltDeg: -15 };
  const arrays = [...(e.arrays ?? [])];
  if (!arrays.some((a: any) => a.role === 'main')) arrays.unshift(main);
  show(sessionFrom({ id: 't', title: (t as any).name ?? (t as any).title, venue: { widthM: 16, depthM: 26, heightM: 8, rt60S: 1.5, origin: { x: 8, y: 12 } }, brief: { intent: { mono: 'should-survive', room: 'balanced' } }, sources: e.sources, sections: e.sections, arrays }));
}
