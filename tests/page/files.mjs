// Reads the glTF and IFC files of a project with the standards' own tools, and compares them with what the tool says of it.
import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import validator from 'gltf-validator';
import * as ifc from 'web-ifc';

const [tool, project, folder, buildFile] = process.argv.slice(2); // the file that the project was built from
const say = (...words) => JSON.parse(execFileSync(tool, [...words, '--json'], { encoding: 'utf8', maxBuffer: 1 << 28 }));
for (const as of ['glb', 'ifc']) say('export', project, '--what', 'model', '--as', as, '--dir', folder);
const volumes = new Map(say('volumes', project).units.filter(u => u.volume > 0).map(u => [u.code, u.volume]));

const check = async (file, words) => {
  const report = await validator.validateBytes(new Uint8Array(fs.readFileSync(file)));
  assert.equal(report.issues.numErrors, 0, JSON.stringify(report.issues.messages.slice(0, 3)));
  assert.equal(report.issues.numWarnings, 0, JSON.stringify(report.issues.messages.slice(0, 3)));
  console.log(`glTF${words}: ${report.info.totalTriangleCount} triangles, no error and no warning`);
};
await check(path.join(folder, 'model.glb'), '');
const patterned = path.join(folder, 'patterned');
say('export', project, '--what', 'model', '--as', 'glb', '--patterns', '--dir', patterned);
await check(path.join(patterned, 'model.glb'), ' with patterns');

const api = new ifc.IfcAPI();
await api.Init();
api.SetLogLevel(ifc.LogLevel.LOG_LEVEL_OFF);
const model = api.OpenModel(new Uint8Array(fs.readFileSync(path.join(folder, 'model.ifc'))));
assert.equal(api.GetModelSchema(model), 'IFC4X3_ADD2');
const all = type => Array.from(api.GetLineIDsWithType(model, type), id => api.GetLine(model, id));
const line = handle => api.GetLine(model, handle.value);
const inspected = say('column', project, '--at', '0,0'); // the tool answers
assert.ok(Array.isArray(inspected));

// the volumes of the bodies, from the coordinates as they were parsed
let bodies = 0;
for (const stratum of all(ifc.IFCGEOTECHNICALSTRATUM)) {
  if (stratum.PredefinedType.value !== 'SOLID' || !stratum.Representation) continue;
  const item = line(line(line(stratum.Representation).Representations[0]).Items[0]);
  if (item.type !== ifc.IFCTRIANGULATEDFACESET) continue;
  const points = line(item.Coordinates).CoordList.map(p => p.map(v => v.value)), o = points[0];
  let six = 0;
  for (const corner of item.CoordIndex) {
    const [a, b, c] = corner.map(n => points[n.value - 1].map((v, k) => v - o[k]));
    six += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  const code = stratum.Name.value, known = volumes.get(code);
  assert.ok(known !== undefined, `${code} has a volume`);
  assert.ok(Math.abs(six / 6 / known - 1) < 1e-6, `${code}: ${six / 6} in the file, ${known} in the model`);
  ++bodies;
}
assert.equal(bodies, volumes.size);

// the values of the units, with their units of measure, against the file that the project was built from
const valueKinds = { unit_weight: ['Unit weight', 'kN/m³'], conductivity: ['Hydraulic conductivity', 'm/s'], vertical_conductivity: ['Vertical hydraulic conductivity', 'm/s'] };
const built = new Map(JSON.parse(fs.readFileSync(buildFile, 'utf8')).sequence.map(u => [u.code, u]));
let valuesCompared = 0;
for (const relation of all(ifc.IFCRELDEFINESBYPROPERTIES)) {
  const set = line(relation.RelatingPropertyDefinition), unit = line(relation.RelatedObjects[0]).Name?.value;
  if (set.Name.value === 'Model' && volumes.has(unit)) {
    const volume = set.HasProperties.map(line).find(p => p.Name.value === 'Volume of the model\'s cells').NominalValue.value;
    assert.ok(Math.abs(volume / volumes.get(unit) - 1) < 1e-12, `${unit}: ${volume}`);
  }
  if (set.Name.value !== 'Values') continue;
  const properties = set.HasProperties.map(line);
  for (const [key, [words, measure]] of Object.entries(valueKinds)) {
    if (built.get(unit)[key] === undefined) continue;
    const found = properties.find(p => p.Name.value === words);
    assert.ok(Math.abs(found.NominalValue.value / built.get(unit)[key] - 1) < 1e-12, `${unit}: ${words}`);
    assert.equal(line(found.Unit).UserDefinedType.value, measure);
    ++valuesCompared;
  }
}
assert.ok(valuesCompared >= 3 * bodies - 3, `${valuesCompared} values of units compared`);

// positions of holes, against the project's own
const holesGiven = say('audit', project).holes.length, boreholes = all(ifc.IFCBOREHOLE);
assert.ok(boreholes.length >= holesGiven);
const conversion = all(ifc.IFCMAPCONVERSION)[0];
assert.ok(conversion.Eastings.value % 100 === 0);
const sets = new Map();
for (const relation of all(ifc.IFCRELDEFINESBYPROPERTIES))
  for (const object of relation.RelatedObjects) sets.set(object.value, [...(sets.get(object.value) ?? []), line(relation.RelatingPropertyDefinition)]);
const parts = new Map();
for (const relation of all(ifc.IFCRELAGGREGATES)) parts.set(relation.RelatingObject.value, relation.RelatedObjects.map(o => o.value));
let compared = 0;
for (const hole of boreholes) {
  const own = sets.get(hole.expressID).find(s => s.Name.value === 'Hole');
  const value = name => line(own.HasProperties.find(p => line(p).Name.value === name)).NominalValue.value;
  const first = parts.get(hole.expressID)?.[0];
  if (first === undefined) continue;
  const stratum = api.GetLine(model, first);
  const top = line(line(line(line(line(stratum.Representation).Representations[0]).Items[0]).Directrix).Points[0]).Coordinates.map(c => c.value);
  const depth = line(sets.get(first)[0].HasProperties.find(p => line(p).Name.value === 'Depth to top')).NominalValue.value;
  if (depth > 0) continue;
  assert.ok(Math.abs(top[0] + conversion.Eastings.value - value('Easting')) < 1e-3);
  assert.ok(Math.abs(top[1] + conversion.Northings.value - value('Northing')) < 1e-3);
  assert.ok(Math.abs(top[2] - value('Ground level')) < 1e-3);
  ++compared;
}
assert.ok(compared > boreholes.length / 2);
console.log(`IFC: ${bodies} bodies with the volumes of the model, ${boreholes.length} holes, ${compared} positions compared`);
