#include "core/io/base64.hpp"
#include "core/io/gltf.hpp"

namespace undisona {

namespace {

constexpr const char* head = R"(<style>
html, body { margin: 0; height: 100%; font: 15px system-ui, "DejaVu Sans", sans-serif; color: #20262B; background: #F3F2EE; overflow: hidden; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; touch-action: none; }
#bar { position: absolute; left: 1rem; right: 1rem; top: .8rem; display: flex; gap: .8rem; align-items: center; flex-wrap: wrap; }
h1 { font-size: 1.1rem; margin: 0 1rem 0 0; } select, button { font: inherit; padding: .2rem .5rem; } label { color: #6C747A; }
#foot { position: absolute; left: 1rem; bottom: .6rem; color: #6C747A; font-size: .85rem; }
</style>)";

// The page's own player: reads the one mesh of the file that stands in it, and moves it.
constexpr const char* script = R"(
"use strict";
const bytes = Uint8Array.from(atob(document.getElementById("model").textContent.trim()), c => c.charCodeAt(0));
const view = new DataView(bytes.buffer);
const jsonLength = view.getUint32(12, true);
const gltf = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + jsonLength)));
const binary = 28 + jsonLength;
function accessor(index) {
  const a = gltf.accessors[index], v = gltf.bufferViews[a.bufferView], parts = a.type === "VEC3" ? 3 : 1;
  const Kind = a.componentType === 5126 ? Float32Array : Uint32Array;
  return new Kind(bytes.buffer.slice(binary + v.byteOffset, binary + v.byteOffset + v.byteLength), 0, a.count * parts);
}
const primitive = gltf.meshes[0].primitives[0], targets = primitive.targets || [];
const place = accessor(primitive.attributes.POSITION), triangles = accessor(primitive.indices);
const low = [1e30, 1e30, 1e30], high = [-1e30, -1e30, -1e30];
place.forEach((x, at) => { low[at % 3] = Math.min(low[at % 3], x); high[at % 3] = Math.max(high[at % 3], x); });
const middle = low.map((x, at) => (x + high[at]) / 2);
const reach = Math.hypot(high[0] - low[0], high[1] - low[1], high[2] - low[2]) / 2;
const canvas = document.querySelector("canvas"), select = document.querySelector("select");
const play = document.getElementById("play"), amount = document.getElementById("amount"), foot = document.getElementById("foot");
(gltf.meshes[0].extras.targetNames || []).forEach((name, at) => select.add(new Option(name, at)));
const gl = canvas.getContext("webgl", { antialias: true, preserveDrawingBuffer: true });
if (!gl) foot.textContent = "This browser draws no WebGL.";
gl.getExtension("OES_element_index_uint");
gl.getExtension("OES_standard_derivatives");
function shader(kind, text) {
  const own = gl.createShader(kind);
  gl.shaderSource(own, text); gl.compileShader(own);
  if (!gl.getShaderParameter(own, gl.COMPILE_STATUS)) throw new Error(gl.getShaderInfoLog(own));
  return own;
}
const program = gl.createProgram();
gl.attachShader(program, shader(gl.VERTEX_SHADER, `
attribute vec3 place, move; uniform mat4 seen; uniform float weight, most; varying vec3 world; varying float size;
void main() { world = place + weight * move; size = length(move) / most; gl_Position = seen * vec4(world, 1.0); }`));
gl.attachShader(program, shader(gl.FRAGMENT_SHADER, `#extension GL_OES_standard_derivatives : enable
precision highp float; varying vec3 world; varying float size; uniform vec3 light;
void main() { vec3 n = normalize(cross(dFdx(world), dFdy(world)));
  vec3 colour = mix(vec3(0.89, 0.84, 0.97), vec3(0.18, 0.06, 0.33), clamp(size, 0.0, 1.0));
  gl_FragColor = vec4(colour * (0.55 + 0.45 * abs(dot(n, light))), 1.0); }`));
gl.linkProgram(program); gl.useProgram(program);
function buffer(kind, data) { const own = gl.createBuffer(); gl.bindBuffer(kind, own); gl.bufferData(kind, data, gl.STATIC_DRAW); return own; }
function feed(name, own) {
  const at = gl.getAttribLocation(program, name);
  gl.bindBuffer(gl.ARRAY_BUFFER, own); gl.enableVertexAttribArray(at); gl.vertexAttribPointer(at, 3, gl.FLOAT, false, 0, 0);
}
feed("place", buffer(gl.ARRAY_BUFFER, place));
buffer(gl.ELEMENT_ARRAY_BUFFER, triangles);
const moves = gl.createBuffer();
const uniform = name => gl.getUniformLocation(program, name);
function take(mode) {
  const own = targets.length ? accessor(targets[mode].POSITION) : new Float32Array(place.length);
  gl.bindBuffer(gl.ARRAY_BUFFER, moves); gl.bufferData(gl.ARRAY_BUFFER, own, gl.STATIC_DRAW); feed("move", moves);
  let most = 1e-30;
  for (let at = 0; at < own.length; at += 3) most = Math.max(most, Math.hypot(own[at], own[at + 1], own[at + 2]));
  gl.uniform1f(uniform("most"), most);
}
let round = 0.7, up = -0.35, near = 1, running = true, phase = 0.25, last = 0;
function seen() { // orthographic, z up
  const w = canvas.width, h = canvas.height, s = near / reach / 1.15, fit = Math.min(w, h);
  const c = Math.cos(round), d = Math.sin(round), e = Math.cos(up), f = Math.sin(up);
  const right = [c, d, 0], over = [d * f, -c * f, e], out = [d * e, -c * e, -f];
  const m = new Float32Array(16);
  for (let k = 0; k < 3; ++k) { m[4 * k] = right[k] * s * fit / w; m[4 * k + 1] = over[k] * s * fit / h; m[4 * k + 2] = out[k] * s / 8 * -1; }
  for (let r = 0; r < 3; ++r) m[12 + r] = -(m[r] * middle[0] + m[4 + r] * middle[1] + m[8 + r] * middle[2]);
  m[15] = 1;
  gl.uniform3f(uniform("light"), -out[0], -out[1], -out[2]);
  return m;
}
function draw() {
  const scale = window.devicePixelRatio || 1, w = Math.round(canvas.clientWidth * scale), h = Math.round(canvas.clientHeight * scale);
  if (canvas.width !== w || canvas.height !== h) { canvas.width = w; canvas.height = h; }
  gl.viewport(0, 0, w, h); gl.enable(gl.DEPTH_TEST); gl.clearColor(0.953, 0.949, 0.933, 1); gl.clear(gl.COLOR_BUFFER_BIT | gl.DEPTH_BUFFER_BIT);
  gl.uniformMatrix4fv(uniform("seen"), false, seen());
  gl.uniform1f(uniform("weight"), amount.value / 100 * Math.sin(2 * Math.PI * phase));
  gl.drawElements(gl.TRIANGLES, triangles.length, gl.UNSIGNED_INT, 0);
}
function step(now) {
  if (running) phase = (phase + (last ? (now - last) / 2000 : 0)) % 1;
  last = now; draw(); requestAnimationFrame(step);
}
select.onchange = () => take(+select.value);
play.onclick = () => { running = !running; play.textContent = running ? "Halt" : "Play"; };
canvas.onpointerdown = event => canvas.setPointerCapture(event.pointerId);
canvas.onpointermove = event => { if (event.buttons) { round -= event.movementX / 150; up = Math.max(-1.57, Math.min(1.57, up - event.movementY / 150)); } };
canvas.onwheel = event => { near *= Math.exp(-event.deltaY / 800); event.preventDefault(); };
take(0);
foot.textContent = `${place.length / 3} points, ${triangles.length / 3} triangles; amplitude is arbitrary. Drag to turn, wheel to come nearer.`;
document.body.dataset.ready = targets.length;
requestAnimationFrame(step);
)";

} // namespace

std::string motionPage(const Solution& solution, const std::string& title, std::size_t most)
{
    const std::string model = modesGlb(solution, most);
    if (model.empty()) return {};
    return "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>" + inHtml(title) + "</title>\n" +
           head + "</head><body>\n<canvas></canvas>\n<div id=\"bar\"><h1>" + inHtml(title) +
           "</h1><select aria-label=\"mode\"></select><button id=\"play\">Halt</button><label>amplitude <input "
           "id=\"amount\" type=\"range\" min=\"0\" max=\"200\" value=\"100\"></label></div>\n<div id=\"foot\"></div>\n"
           "<script type=\"application/octet-stream\" id=\"model\">" +
           base64(model) + "</script>\n<script>" + script + "</script>\n</body></html>\n";
}

} // namespace undisona
