/**
 * Blocks that the graphics chip unpacks, by the extension of WebGL that says so and the number of the format there
 * (Khronos WebGL registry: EXT_texture_compression_bptc, WEBGL_compressed_texture_etc, WEBGL_compressed_texture_astc).
 */
const FORMATS: Record<string, { extension: string; format: number }> = {
  BC6H: { extension: 'EXT_texture_compression_bptc', format: 0x8e8f },
  BC7: { extension: 'EXT_texture_compression_bptc', format: 0x8e8c },
  ETC2: { extension: 'WEBGL_compressed_texture_etc', format: 0x9274 },
  'ETC2 alpha': { extension: 'WEBGL_compressed_texture_etc', format: 0x9278 },
  'ASTC 4x4': { extension: 'WEBGL_compressed_texture_astc', format: 0x93b0 },
};

/** One triangle that covers the picture; its top is the first row of the blocks. */
const CORNERS = `#version 300 es
out vec2 at;
void main() {
  vec2 corner = vec2((gl_VertexID << 1) & 2, gl_VertexID & 2);
  at = vec2(corner.x, 1.0 - corner.y);
  gl_Position = vec4(corner * 2.0 - 1.0, 0.0, 1.0);
}`;
const COLOUR = `#version 300 es
precision highp float;
uniform sampler2D blocks;
in vec2 at;
out vec4 colour;
void main() { colour = texture(blocks, at); }`;

/** Draws blocks of a texture; undefined where this computer's graphics chip, or the browser, does not unpack them. */
export function drawBlocks(texture: {
  width: number;
  height: number;
  format: string;
  data: Uint8Array;
}): OffscreenCanvas | undefined {
  const known = FORMATS[texture.format];
  const canvas = new OffscreenCanvas(texture.width, texture.height);
  const gl = canvas.getContext('webgl2', { premultipliedAlpha: false, preserveDrawingBuffer: true });
  if (!known || !gl?.getExtension(known.extension)) return undefined;
  const program = gl.createProgram();
  for (const [type, source] of [
    [gl.VERTEX_SHADER, CORNERS],
    [gl.FRAGMENT_SHADER, COLOUR],
  ] as const) {
    const shader = gl.createShader(type);
    if (!shader) return undefined;
    gl.shaderSource(shader, source);
    gl.compileShader(shader);
    gl.attachShader(program, shader);
  }
  gl.linkProgram(program);
  gl.useProgram(program);
  gl.bindTexture(gl.TEXTURE_2D, gl.createTexture());
  gl.compressedTexImage2D(gl.TEXTURE_2D, 0, known.format, texture.width, texture.height, 0, texture.data);
  for (const name of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER]) gl.texParameteri(gl.TEXTURE_2D, name, gl.NEAREST);
  gl.viewport(0, 0, texture.width, texture.height);
  gl.drawArrays(gl.TRIANGLES, 0, 3);
  return gl.getError() === gl.NO_ERROR ? canvas : undefined;
}
