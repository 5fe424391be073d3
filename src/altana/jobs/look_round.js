"use strict";
// Looking round: the panorama is drawn by one shader on the whole canvas; drag, wheel, keys or the device's own turning sensor.
const canvas = document.getElementById("view");
const gl = canvas.getContext("webgl", { preserveDrawingBuffer: true });
const links = document.getElementById("links");
const state = { scene: 0, heading: 0, tilt: 0, angle: 75, two: false, ready: false };
window.altana = { state, data: DATA, go, draw };

const VERTEX = "attribute vec2 at; varying vec2 place; void main() { place = at; gl_Position = vec4(at, 0.0, 1.0); }";
const FRAGMENT = `
precision highp float;
varying vec2 place;
uniform sampler2D picture;
uniform vec2 reach;
uniform float heading;
uniform float tilt;
void main() {
  vec3 ray = normalize(vec3(place.x * reach.x, place.y * reach.y, 1.0));
  float c = cos(tilt), s = sin(tilt);
  vec3 up = vec3(ray.x, ray.y * c + ray.z * s, ray.z * c - ray.y * s);
  float turn = heading + atan(up.x, up.z);
  float u = fract(0.5 + turn / 6.28318530718), v = 0.5 - asin(clamp(up.y, -1.0, 1.0)) / 3.14159265359;
  gl_FragColor = texture2D(picture, vec2(u, v));
}`;

let program = null, textures = [];

function compile(kind, text) {
  const shader = gl.createShader(kind);
  gl.shaderSource(shader, text);
  gl.compileShader(shader);
  return shader;
}

function begin() {
  if (!gl) { document.getElementById("name").textContent = "This browser cannot draw panoramas (no WebGL)."; return; }
  program = gl.createProgram();
  gl.attachShader(program, compile(gl.VERTEX_SHADER, VERTEX));
  gl.attachShader(program, compile(gl.FRAGMENT_SHADER, FRAGMENT));
  gl.linkProgram(program);
  gl.useProgram(program);
  gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
  gl.bufferData(gl.ARRAY_BUFFER, new Float32Array([-1, -1, 3, -1, -1, 3]), gl.STATIC_DRAW);
  const at = gl.getAttribLocation(program, "at");
  gl.enableVertexAttribArray(at);
  gl.vertexAttribPointer(at, 2, gl.FLOAT, false, 0, 0);
  DATA.scenes.forEach((scene, number) => {
    const image = new Image();
    image.onload = () => { load(number, image); if (number === state.scene) { state.ready = true; draw(); } };
    image.src = scene.picture;
  });
  document.querySelectorAll("#plan circle").forEach((dot) => dot.addEventListener("click", () => go(Number(dot.dataset.scene))));
  go(0);
}

function load(number, image) {
  const most = gl.getParameter(gl.MAX_TEXTURE_SIZE);
  let source = image;
  if (image.width > most) {
    source = document.createElement("canvas");
    source.width = most; source.height = most / 2;
    source.getContext("2d").drawImage(image, 0, 0, source.width, source.height);
  }
  textures[number] = gl.createTexture();
  gl.bindTexture(gl.TEXTURE_2D, textures[number]);
  gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGB, gl.RGB, gl.UNSIGNED_BYTE, source);
  for (const [name, value] of [[gl.TEXTURE_MIN_FILTER, gl.LINEAR], [gl.TEXTURE_MAG_FILTER, gl.LINEAR], [gl.TEXTURE_WRAP_S, gl.CLAMP_TO_EDGE], [gl.TEXTURE_WRAP_T, gl.CLAMP_TO_EDGE]])
    gl.texParameteri(gl.TEXTURE_2D, name, value);
}

// To another place, looking the same way in the building.
function go(number) {
  const before = DATA.scenes[state.scene], now = DATA.scenes[number];
  state.heading += before.heading - now.heading;
  if (number === state.scene) state.heading = 0;
  state.scene = number;
  state.ready = Boolean(textures[number]);
  document.getElementById("name").textContent = now.caption ? `${now.name}. ${now.caption}` : now.name;
  document.querySelectorAll("#plan circle").forEach((dot) => dot.classList.toggle("here", Number(dot.dataset.scene) === number));
  links.textContent = "";
  for (const other of now.links) {
    const made = document.createElement("button");
    made.type = "button";
    made.textContent = DATA.scenes[other].name;
    made.dataset.scene = other;
    made.addEventListener("click", () => go(other));
    links.appendChild(made);
  }
  draw();
}

function draw() {
  const ratio = window.devicePixelRatio || 1;
  canvas.width = Math.round(canvas.clientWidth * ratio);
  canvas.height = Math.round(canvas.clientHeight * ratio);
  if (program && textures[state.scene]) {
    gl.bindTexture(gl.TEXTURE_2D, textures[state.scene]);
    const parts = state.two ? 2 : 1, wide = canvas.width / parts;
    for (let part = 0; part < parts; part++) {
      gl.viewport(part * wide, 0, wide, canvas.height);
      const across = Math.tan(state.angle * Math.PI / 360);
      gl.uniform2f(gl.getUniformLocation(program, "reach"), across, across * canvas.height / wide);
      gl.uniform1f(gl.getUniformLocation(program, "heading"), state.heading * Math.PI / 180);
      gl.uniform1f(gl.getUniformLocation(program, "tilt"), state.tilt * Math.PI / 180);
      gl.drawArrays(gl.TRIANGLES, 0, 3);
    }
  }
  place();
}

// Links lie where the other place is seen, or at the edge nearest to it.
function place() {
  const here = DATA.scenes[state.scene];
  for (const made of links.children) {
    const eye = DATA.scenes[Number(made.dataset.scene)].eye;
    const dx = eye[0] - here.eye[0], dy = eye[1] - here.eye[1], dz = eye[2] - here.eye[2];
    const turn = ((Math.atan2(dx, dy) * 180 / Math.PI - here.heading - state.heading + 540) % 360) - 180;
    const rise = Math.atan2(dz, Math.hypot(dx, dy)) * 180 / Math.PI - state.tilt;
    const across = Math.tan(state.angle * Math.PI / 360);
    const x = Math.abs(turn) < 85 ? Math.tan(turn * Math.PI / 180) / across : Math.sign(turn) * 2;
    const y = Math.tan(rise * Math.PI / 180) / across * canvas.clientWidth / Math.max(1, canvas.clientHeight);
    made.style.left = `${50 + 44 * Math.max(-1, Math.min(1, x))}%`;
    made.style.top = `${50 - 40 * Math.max(-1, Math.min(1, y))}%`;
  }
}

function turn(heading, tilt) {
  state.heading = ((heading % 360) + 360) % 360;
  state.tilt = Math.max(-89, Math.min(89, tilt));
  draw();
}

let held = null;
canvas.addEventListener("pointerdown", (event) => { held = [event.clientX, event.clientY]; canvas.setPointerCapture(event.pointerId); });
canvas.addEventListener("pointermove", (event) => {
  if (!held) return;
  const step = state.angle / Math.max(1, canvas.clientWidth);
  turn(state.heading - (event.clientX - held[0]) * step, state.tilt + (event.clientY - held[1]) * step);
  held = [event.clientX, event.clientY];
});
canvas.addEventListener("pointerup", () => { held = null; });
canvas.addEventListener("wheel", (event) => {
  event.preventDefault();
  state.angle = Math.max(20, Math.min(110, state.angle * (event.deltaY > 0 ? 1.1 : 0.9)));
  draw();
}, { passive: false });
canvas.addEventListener("keydown", (event) => {
  const steps = { ArrowLeft: [-10, 0], ArrowRight: [10, 0], ArrowUp: [0, 10], ArrowDown: [0, -10] };
  if (steps[event.key]) { event.preventDefault(); turn(state.heading + steps[event.key][0], state.tilt + steps[event.key][1]); }
});
document.getElementById("two").addEventListener("click", (event) => { state.two = !state.two; event.target.textContent = state.two ? "One eye" : "Two eyes"; draw(); });
// A phone turns the picture by turning itself; where there is no sensor, dragging does.
let compass = null;
window.addEventListener("deviceorientation", (event) => {
  if (event.alpha === null) return;
  if (compass === null) compass = state.heading + event.alpha;
  turn(compass - event.alpha, Math.max(-89, Math.min(89, event.beta - 90)));
});
window.addEventListener("resize", draw);
begin();
