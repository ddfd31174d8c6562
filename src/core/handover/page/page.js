/* The page of a ground model: the scene comes as binary glTF in the page, what is known of it as JSON. */
(function () {
  'use strict';
  const facts = JSON.parse(document.getElementById('facts').textContent);
  const $ = id => document.getElementById(id);
  const metres = (v, digits) => Number(v).toLocaleString('en', { minimumFractionDigits: digits, maximumFractionDigits: digits }).replace(/,/g, '\u202F');
  const make = (tag, words, className) => { const e = document.createElement(tag); if (words !== undefined) e.textContent = words; if (className) e.className = className; return e; };
  const unitOf = code => facts.units.find(u => u.code === code);

  /* --- tabs */
  const tabs = Array.from(document.querySelectorAll('[role=tab]'));
  function open(tab) {
    tabs.forEach(t => {
      t.setAttribute('aria-selected', String(t === tab));
      t.tabIndex = t === tab ? 0 : -1;
      $(t.getAttribute('aria-controls')).hidden = t !== tab;
    });
    resize();
  }
  tabs.forEach((tab, i) => {
    tab.addEventListener('click', () => open(tab));
    tab.addEventListener('keydown', e => {
      const step = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
      if (!step) return;
      const next = tabs[(i + step + tabs.length) % tabs.length];
      open(next); next.focus();
    });
  });
  $('date').textContent = facts.date + (facts.crs ? ', ' + facts.crs : '');

  /* --- the key, holes, pictures and what is known */
  const boxes = {};
  function checkBox(id, on, changed) {
    const box = make('input');
    box.type = 'checkbox'; box.checked = on; box.id = id;
    box.addEventListener('change', () => { changed(box.checked); draw(); });
    return box;
  }
  facts.units.forEach(unit => {
    const row = make('tr'), cell = make('td'), label = make('label'), words = make('span');
    const swatch = make('span', '', 'swatch'); swatch.style.background = unit.colour;
    const box = boxes[unit.code] = checkBox('unit-' + unit.code, true, on => { if (parts[unit.code]) parts[unit.code].visible = on; });
    box.disabled = !unit.body;
    words.append(unit.code + '  ' + unit.name);
    if (unit.volume !== null) {
      words.append(make('small', metres(unit.volume, 0) + ' m³'));
      if (unit.p10 !== null) words.append(make('small', 'P10 ' + metres(unit.p10, 0) + ', P90 ' + metres(unit.p90, 0)));
    } else words.append(make('small', 'its base is not known'));
    label.append(box, swatch, words); cell.append(label); row.append(cell); $('key').append(row);
  });
  function logOf(hole) {
    const table = make('table', undefined, 'log');
    hole.intervals.forEach(i => {
      const row = make('tr'), column = make('td'), unit = unitOf(i.unit);
      column.style.background = unit ? unit.colour : '#9A9388';
      const words = make('td');
      words.append(make('strong', metres(i.top, 2) + ' – ' + metres(i.base, 2) + ' m  ' + (i.unit || 'no unit')));
      if (i.description) words.append(make('br'), i.description);
      row.append(column, words);
      row.style.height = Math.max(22, 9 * (i.base - i.top)) + 'px';
      table.append(row);
    });
    return table;
  }
  function showHole(name) {
    const hole = facts.holes.find(h => h.name === name);
    if (!hole) return;
    const card = $('card'), close = make('button', 'Close', 'close');
    card.replaceChildren(close, make('h2', hole.name),
      make('p', [hole.type, 'E ' + metres(hole.easting, 2) + ', N ' + metres(hole.northing, 2), 'ground level ' + metres(hole.level, 2) + ' m', 'depth ' + metres(hole.depth, 2) + ' m'].filter(Boolean).join('; ')),
      hole.intervals.length ? logOf(hole) : make('p', 'It has no log.'));
    close.type = 'button';
    close.addEventListener('click', () => { card.hidden = true; $('canvas').focus(); });
    card.hidden = false;
  }
  (function listHoles() {
    const table = make('table'), head = make('tr');
    ['Hole', 'Type', 'Easting, m', 'Northing, m', 'Ground level, m', 'Depth, m'].forEach(w => head.append(make('th', w)));
    table.append(head);
    facts.holes.forEach(hole => {
      const row = make('tr'), name = make('td'), link = make('button', hole.name);
      link.type = 'button';
      link.addEventListener('click', () => { open(tabs[0]); showHole(hole.name); });
      name.append(link); row.append(name, make('td', hole.type));
      [hole.easting, hole.northing, hole.level, hole.depth].forEach(v => row.append(make('td', metres(v, 2), 'number')));
      table.append(row);
    });
    $('hole-list').append(table);
  })();
  function showPicture(i) {
    const picture = facts.pictures[i];
    if (!picture) return;
    $('picture').selectedIndex = i;
    $('shown-picture').src = picture.source; $('shown-picture').alt = picture.name;
    $('before').disabled = i === 0; $('after').disabled = i + 1 === facts.pictures.length;
  }
  facts.pictures.forEach(p => $('picture').append(make('option', p.name)));
  $('picture').addEventListener('change', () => showPicture($('picture').selectedIndex));
  $('before').addEventListener('click', () => showPicture($('picture').selectedIndex - 1));
  $('after').addEventListener('click', () => showPicture($('picture').selectedIndex + 1));
  if (facts.pictures.length) showPicture(0); else { $('tab-pictures').hidden = true; }
  /* On paper all pictures follow one another: they are made ready once the page is seen, since printing waits for none. */
  function makePrintedPictures() {
    facts.pictures.forEach(p => {
      const figure = make('figure'), image = make('img');
      image.decoding = 'sync'; image.alt = p.name; image.src = p.source;
      figure.append(image); $('printed-pictures').append(figure);
    });
  }
  (function about() {
    const to = $('about');
    facts.about.forEach(words => to.append(make('p', words)));
    to.append(make('h2', 'Findings that stand'));
    if (!facts.findings.length) to.append(make('p', 'None.'));
    const table = make('table');
    facts.findings.forEach(f => {
      const row = make('tr');
      row.append(make('td', f.kind), make('td', f.hole), make('td', f.words));
      table.append(row);
    });
    to.append(table);
  })();

  /* --- the scene */
  const canvas = $('canvas'), parts = {}, clipping = [];
  let renderer = null, scene, camera, controls, whole, box, waiting = false;
  const insides = []; // of bodies, seen only while something is cut
  const handles = []; // one a plane: what moves it, in the view
  const planes = { east: new THREE.Plane(new THREE.Vector3(1, 0, 0), 1e9), north: new THREE.Plane(new THREE.Vector3(0, 0, -1), 1e9), line: new THREE.Plane(new THREE.Vector3(1, 0, 0), 1e9) };
  clipping.push(planes.east, planes.north, planes.line);

  function fail(words) { $('problem').textContent = words; $('problem').hidden = false; document.body.dataset.state = 'failed'; }
  function draw() {
    if (waiting || !renderer || !whole) return;
    waiting = true;
    requestAnimationFrame(() => {
      waiting = false;
      handles.forEach(h => h.knob.scale.setScalar(0.0075 * camera.position.distanceTo(h.knob.position))); // as large at any distance
      renderer.render(scene, camera);
      document.body.dataset.state = 'drawn';
    });
  }
  function resize() {
    if (!renderer) return;
    const width = $('stage').clientWidth, height = $('stage').clientHeight;
    if (!width || !height) return;
    renderer.setSize(width, height, false);
    camera.aspect = width / height; camera.updateProjectionMatrix();
    draw();
  }
  /* Paper takes no picture from the graphics card, so the model is drawn once more, in the shape of the sheet, and copied. */
  function drawForPaper() {
    if (!whole) return;
    const width = 1800, height = 1100, ratio = renderer.getPixelRatio(), seen = camera.aspect, paper = $('printed');
    paper.width = width; paper.height = height;
    renderer.setPixelRatio(1); renderer.setSize(width, height, false);
    camera.aspect = width / height; camera.updateProjectionMatrix();
    handles.forEach(h => { h.knob.visible = false; });
    renderer.render(scene, camera);
    paper.getContext('2d', { willReadFrequently: true }).drawImage(canvas, 0, 0);
    handles.forEach(h => { h.knob.visible = true; });
    camera.aspect = seen; camera.updateProjectionMatrix();
    renderer.setPixelRatio(ratio);
    renderer.setSize($('stage').clientWidth || 1, $('stage').clientHeight || 1, false);
    draw();
  }
  window.addEventListener('beforeprint', drawForPaper);
  window.addEventListener('afterprint', resize);
  function bytesOf(text) {
    const raw = atob(text), out = new Uint8Array(raw.length);
    for (let i = 0; i < raw.length; ++i) out[i] = raw.charCodeAt(i);
    return out.buffer;
  }
  /* A body is drawn twice: its outside with light, and its inside in plain colour, which fills it where it is cut. */
  function dress(mesh, closed) {
    const from = mesh.material, colour = from.color;
    const common = { color: colour, map: from.map, transparent: from.opacity < 1, opacity: from.opacity, clippingPlanes: clipping };
    mesh.material = new THREE.MeshLambertMaterial(Object.assign({ side: closed ? THREE.FrontSide : THREE.DoubleSide, flatShading: true }, common));
    if (!mesh.geometry.attributes.normal) mesh.geometry.computeVertexNormals();
    if (!closed) return;
    const inside = new THREE.Mesh(mesh.geometry, new THREE.MeshBasicMaterial({ color: colour.clone().multiplyScalar(0.9), side: THREE.BackSide, clippingPlanes: clipping }));
    insides.push(inside);
    mesh.add(inside);
  }
  /* What a thing of the scene belongs to, by what the scene says of it. */
  function said(object, key) {
    for (let o = object; o; o = o.parent) if (o.userData[key] !== undefined) return o;
    return null;
  }
  function begin(gltf) {
    whole = gltf.scene;
    scene.add(whole);
    const meshes = [];
    whole.traverse(o => { if (o.isMesh) meshes.push(o); });
    const group = name => whole.children.find(c => c.userData.group === name);
    meshes.forEach(m => { const g = said(m, 'group'); dress(m, g && g.userData.group === 'units'); });
    if (group('units')) group('units').children.forEach(c => { parts[c.userData.unit] = c; });
    const also = { Ground: [group('ground'), false], Holes: [group('holes'), true], Faults: [group('faults'), false], 'Water surfaces': [group('water'), false] };
    Object.keys(also).forEach(words => {
      const [g, on] = also[words];
      if (!g) return;
      g.visible = on;
      const label = make('label');
      label.append(checkBox('also-' + words.split(' ')[0].toLowerCase(), on, v => { g.visible = v; }), words);
      $('also').append(label);
    });
    box = new THREE.Box3().setFromObject(whole);
    const size = box.getSize(new THREE.Vector3());
    const usual = Math.min(20, Math.max(1, Math.round(0.25 * Math.max(size.x, size.z) / Math.max(size.y, 1))));
    $('exaggeration').value = String(usual);
    makeHandles();
    exaggerate(); cut(); lookAtAll();
    document.body.dataset.units = String(Object.keys(parts).length);
    draw();
  }
  const exaggeration = () => Number($('exaggeration').value);
  function exaggerate() {
    whole.scale.y = exaggeration();
    $('exaggeration-said').textContent = '× ' + exaggeration();
    const apart = Number($('apart').value) / 100 * 0.12 * Math.max(box.max.x - box.min.x, box.max.z - box.min.z) / exaggeration();
    const shown = facts.units.filter(u => parts[u.code]);
    shown.forEach((u, i) => { parts[u.code].position.y = apart * (shown.length - 1 - i); });
    $('apart-said').textContent = Number($('apart').value) ? $('apart').value + ' %' : '';
  }
  function cut() {
    const part = id => Number($(id).value) / 1000;
    const east = box.min.x + part('east') * (box.max.x - box.min.x), north = box.max.z - part('north') * (box.max.z - box.min.z);
    planes.east.constant = part('east') > 0 ? -east : 1e9;
    planes.north.constant = part('north') > 0 ? north : 1e9;
    $('east-said').textContent = part('east') > 0 ? 'E ' + metres(facts.origin[0] + east, 0) : '';
    $('north-said').textContent = part('north') > 0 ? 'N ' + metres(facts.origin[1] - north, 0) : '';
    const line = lineOf();
    if (line && part('line-cut') > 0) {
      const reach = Math.hypot(box.max.x - box.min.x, box.max.z - box.min.z) / 2, off = (part('line-cut') - 0.5) * 2 * reach;
      planes.line.normal.copy(line.beside); planes.line.constant = -line.beside.dot(line.middle) - off;
      $('line-said').textContent = metres(off, 0) + ' m beside it';
    } else { planes.line.constant = 1e9; $('line-said').textContent = ''; }
    insides.forEach(m => { m.visible = ['east', 'north', 'line-cut'].some(id => part(id) > 0); });
    placeHandles();
  }

  /* --- handles: a knob at the edge of the block for each plane, and the plane's outline while it cuts */
  const lineOf = () => {
    const section = facts.sections[$('line').selectedIndex];
    if (!section) return null;
    const a = section.line[0], b = section.line[section.line.length - 1], length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    return {
      middle: new THREE.Vector3((a[0] + b[0]) / 2 - facts.origin[0], 0, facts.origin[1] - (a[1] + b[1]) / 2),
      along: new THREE.Vector3((b[0] - a[0]) / length, 0, -(b[1] - a[1]) / length), length: length,
      beside: new THREE.Vector3((b[1] - a[1]) / length, 0, (b[0] - a[0]) / length),
    };
  };
  /* The way that a knob can take: from `from` at the slider's 0 to `to` at its end, and half of what its plane is wide. */
  function wayOf(id) {
    const top = box.max.y * exaggeration(), middle = box.getCenter(new THREE.Vector3());
    if (id === 'east') return { from: new THREE.Vector3(box.min.x, top, box.max.z), to: new THREE.Vector3(box.max.x, top, box.max.z), across: new THREE.Vector3(0, 0, 1), half: 0.5 * (box.max.z - box.min.z), centre: p => p.setZ(middle.z) };
    if (id === 'north') return { from: new THREE.Vector3(box.max.x, top, box.max.z), to: new THREE.Vector3(box.max.x, top, box.min.z), across: new THREE.Vector3(1, 0, 0), half: 0.5 * (box.max.x - box.min.x), centre: p => p.setX(middle.x) };
    const line = lineOf(), reach = Math.hypot(box.max.x - box.min.x, box.max.z - box.min.z) / 2;
    if (!line) return null;
    line.middle.y = top;
    return { from: line.middle.clone().addScaledVector(line.beside, -reach), to: line.middle.clone().addScaledVector(line.beside, reach), across: line.along, half: line.length / 2, centre: p => p };
  }
  function makeHandles() {
    ['east', 'north', 'line-cut'].forEach(id => {
      if (id === 'line-cut' && !facts.sections.length) return;
      const rust = new THREE.Color(0xB0430E).convertSRGBToLinear();
      const knob = new THREE.Mesh(new THREE.SphereGeometry(1, 16, 12), new THREE.MeshBasicMaterial({ color: rust, depthTest: false, transparent: true }));
      knob.renderOrder = 2;
      const outline = new THREE.LineLoop(new THREE.BufferGeometry(), new THREE.LineBasicMaterial({ color: rust, depthTest: false, transparent: true, opacity: 0.7 }));
      outline.renderOrder = 1;
      scene.add(knob, outline);
      handles.push({ id: id, knob: knob, outline: outline });
    });
  }
  function placeHandles() {
    const bottom = box.min.y * exaggeration();
    handles.forEach(h => {
      const way = wayOf(h.id), share = Number($(h.id).value) / 1000;
      h.knob.position.copy(way.from).lerp(way.to, share);
      const middle = way.centre(h.knob.position.clone()), a = middle.clone().addScaledVector(way.across, -way.half), b = middle.clone().addScaledVector(way.across, way.half);
      h.outline.visible = share > 0;
      h.outline.geometry.dispose();
      h.outline.geometry = new THREE.BufferGeometry().setFromPoints([a, b, b.clone().setY(bottom), a.clone().setY(bottom)]);
    });
  }
  const onScreen = point => {
    const at = point.clone().project(camera), room = canvas.getBoundingClientRect();
    return { x: room.left + (at.x + 1) / 2 * room.width, y: room.top + (1 - at.y) / 2 * room.height, before: at.z < 1 };
  };
  /* The knob under the pointer; fingers are less exact. */
  function handleAt(event) {
    const near = event.pointerType === 'touch' ? 26 : 13;
    return handles.find(h => { const at = onScreen(h.knob.position); return at.before && Math.hypot(at.x - event.clientX, at.y - event.clientY) <= near; }) || null;
  }
  /* The knob goes to where its way, as it is seen, comes nearest to the pointer. */
  function dragHandle(handle, event) {
    const way = wayOf(handle.id), steps = 1000;
    let best = 0, least = Infinity;
    for (let i = 0; i <= steps; i += 4) {
      const at = onScreen(way.from.clone().lerp(way.to, i / steps)), off = Math.hypot(at.x - event.clientX, at.y - event.clientY);
      if (at.before && off < least) { least = off; best = i; }
    }
    $(handle.id).value = String(best);
    cut(); draw();
  }
  function lookAtAll() {
    const size = box.getSize(new THREE.Vector3()), middle = box.getCenter(new THREE.Vector3());
    middle.y *= exaggeration();
    const wide = Math.min(1, camera.aspect); // a tall pane needs more distance
    const reach = Math.hypot(size.x, size.y * exaggeration(), size.z) / wide;
    controls.target.copy(middle);
    camera.near = reach / 200; camera.far = reach * 20; camera.updateProjectionMatrix();
    camera.position.set(middle.x - 0.5 * reach, middle.y + 0.75 * reach, middle.z + 0.95 * reach);
    controls.update(); draw();
  }
  ['exaggeration', 'apart'].forEach(id => $(id).addEventListener('input', () => { exaggerate(); placeHandles(); draw(); }));
  ['east', 'north', 'line-cut', 'line'].forEach(id => $(id).addEventListener('input', () => { cut(); draw(); }));
  $('again').addEventListener('click', lookAtAll);
  facts.sections.forEach(s => $('line').append(make('option', s.name)));
  if (!facts.sections.length) $('line-row').hidden = true;

  /* What lies under the cursor, not counting what is cut away or switched off. */
  function under(event) {
    const room = canvas.getBoundingClientRect(), ray = new THREE.Raycaster();
    ray.setFromCamera(new THREE.Vector2((event.clientX - room.left) / room.width * 2 - 1, 1 - (event.clientY - room.top) / room.height * 2), camera);
    const visible = o => { for (; o; o = o.parent) if (!o.visible) return false; return true; };
    return ray.intersectObject(whole, true).find(hit => visible(hit.object) && clipping.every(p => p.distanceToPoint(hit.point) >= 0));
  }
  function sayPlace(event) {
    const hit = whole && under(event);
    if (!hit) { $('cursor').textContent = ''; return; }
    const hole = said(hit.object, 'hole'), body = hole ? null : said(hit.object, 'unit'), unit = body && unitOf(body.userData.unit);
    const level = hit.point.y / exaggeration() - (body ? body.position.y : 0);
    $('cursor').textContent = 'E ' + metres(facts.origin[0] + hit.point.x, 1) + '   N ' + metres(facts.origin[1] - hit.point.z, 1) + '   level ' + metres(level, 2) + ' m' + (hole ? '   ' + hole.userData.hole : unit ? '   ' + unit.name : '');
    canvas.style.cursor = hole ? 'pointer' : 'grab';
  }
  /* For those who drive the page by program: a hole that can be clicked, and where, in pixels of the window. */
  window.foxCellar = {
    visibleHole() {
      const room = canvas.getBoundingClientRect();
      const holes = whole.children.find(c => c.userData.group === 'holes');
      for (const hole of holes ? holes.children : []) {
        const at = new THREE.Box3().setFromObject(hole.children[0]).getCenter(new THREE.Vector3()).project(camera);
        const place = { clientX: room.left + (at.x + 1) / 2 * room.width, clientY: room.top + (1 - at.y) / 2 * room.height };
        const hit = Math.abs(at.x) < 0.95 && Math.abs(at.y) < 0.95 && under(place), found = hit && said(hit.object, 'hole');
        if (found === hole) return { name: hole.userData.hole, x: place.clientX, y: place.clientY };
      }
      return null;
    },
    /* The knob of a plane, and where its way ends. */
    handle(id) { return { at: onScreen(handles.find(h => h.id === id).knob.position), end: onScreen(wayOf(id).to) }; },
  };
  let movedTo = null, pressed = null, dragged = null;
  canvas.addEventListener('pointermove', e => {
    if (!movedTo) requestAnimationFrame(() => {
      const at = movedTo; movedTo = null;
      if (dragged) return dragHandle(dragged, at);
      if (at.buttons) return;
      sayPlace(at);
      if (whole && handleAt(at)) canvas.style.cursor = 'move';
    });
    movedTo = e;
  });
  /* Before the controls hear of it: a knob is dragged, and the model does not turn. */
  canvas.addEventListener('pointerdown', e => {
    dragged = whole ? handleAt(e) : null;
    controls.enabled = !dragged;
    if (dragged) canvas.setPointerCapture(e.pointerId);
    pressed = dragged ? null : [e.clientX, e.clientY];
  }, true);
  canvas.addEventListener('pointerleave', () => { $('cursor').textContent = ''; });
  const letGo = () => { dragged = null; controls.enabled = true; };
  canvas.addEventListener('pointercancel', letGo);
  canvas.addEventListener('pointerup', e => {
    if (dragged) { dragHandle(dragged, e); letGo(); }
    if (!pressed || Math.hypot(e.clientX - pressed[0], e.clientY - pressed[1]) > 4) return;
    const hit = whole && under(e), hole = hit && said(hit.object, 'hole');
    if (hole) showHole(hole.userData.hole);
  });
  canvas.addEventListener('keydown', e => {
    const turn = { ArrowLeft: [0.1, 0], ArrowRight: [-0.1, 0], ArrowUp: [0, -0.1], ArrowDown: [0, 0.1] }[e.key], nearer = { '+': 0.9, '=': 0.9, '-': 1.1 }[e.key];
    if (!turn && !nearer) return;
    e.preventDefault();
    const from = new THREE.Spherical().setFromVector3(camera.position.clone().sub(controls.target));
    if (turn) { from.theta -= turn[0]; from.phi = Math.min(Math.PI - 0.05, Math.max(0.05, from.phi + turn[1])); }
    if (nearer) from.radius *= nearer;
    camera.position.setFromSpherical(from).add(controls.target); controls.update(); draw();
  });

  try {
    renderer = new THREE.WebGLRenderer({ canvas: canvas, antialias: true, alpha: true });
  } catch (e) { fail('This browser does not draw in three dimensions here; sections, map, holes and what is known are on the other pages.'); return; }
  renderer.setPixelRatio(Math.min(2, window.devicePixelRatio || 1));
  renderer.localClippingEnabled = true;
  renderer.gammaOutput = true; renderer.gammaFactor = 2.2;
  scene = new THREE.Scene();
  scene.add(new THREE.HemisphereLight(0xffffff, 0xb8ad9e, 0.75));
  const sun = new THREE.DirectionalLight(0xffffff, 0.45); sun.position.set(-1, 2, -1); scene.add(sun);
  camera = new THREE.PerspectiveCamera(35, 1, 1, 1e5);
  controls = new THREE.OrbitControls(camera, canvas);
  controls.enableKeys = false;
  controls.addEventListener('change', draw);
  window.addEventListener('resize', resize);
  new THREE.GLTFLoader().parse(bytesOf($('scene').textContent.trim()), '', gltf => { begin(gltf); resize(); setTimeout(makePrintedPictures, 500); }, () => fail('The model in this page could not be read.'));
})();
