import { describe, expect, it } from 'vitest';
import { inspectModel } from '@/core';
import { seeded } from '@/demo/random';

const text = (lines: string): Uint8Array => new TextEncoder().encode(lines);

/** A triangle as the tutorial of the format has it (Khronos, "glTF Tutorials: A Minimal glTF File"), and a square. */
const SCENE = {
  asset: { version: '2.0' },
  meshes: [
    { primitives: [{ attributes: { POSITION: 1 }, indices: 0 }] },
    { primitives: [{ attributes: { POSITION: 2 } }, { attributes: { POSITION: 2 }, mode: 1 }] },
  ],
  accessors: [
    { bufferView: 0, componentType: 5123, count: 3, type: 'SCALAR', max: [2], min: [0] },
    { bufferView: 1, componentType: 5126, count: 3, type: 'VEC3' },
    { bufferView: 1, componentType: 5126, count: 6, type: 'VEC3' },
  ],
  materials: [{}],
};

/** The binary form: a header of 12 bytes, then chunks of length, type and data (glTF 2.0, 4.4). */
function binary(scene: unknown): Uint8Array {
  const json = text(JSON.stringify(scene).padEnd(4 * Math.ceil(JSON.stringify(scene).length / 4)));
  const file = new Uint8Array(20 + json.length);
  const view = new DataView(file.buffer);
  [0x46546c67, 2, file.length, json.length, 0x4e4f534a].forEach((value, i) => view.setUint32(i * 4, value, true));
  file.set(json, 20);
  return file;
}

describe('what models say about themselves', () => {
  it('glTF, as text and binary: corners that parts share count once, lines are no faces', () => {
    const facts = { meshes: 2, vertices: 9, faces: 3, materials: 1, animations: 0 };
    expect(inspectModel(text(JSON.stringify(SCENE)), 'a.gltf')).toEqual({ format: 'glTF', ...facts });
    expect(inspectModel(binary(SCENE), 'a.bin')).toEqual({ format: 'glTF, binary', ...facts });
  });
  it('OBJ, PLY and STL', () => {
    const corners = 'v 0 0 0\nv 1 0 0\r\nv 0 1 0\n';
    expect(inspectModel(text(`o hull\n${corners}vn 0 0 1\nusemtl oak\nf 1 2 3\n`), 'a.obj')).toEqual({
      format: 'OBJ',
      meshes: 1,
      vertices: 3,
      faces: 1,
      materials: 1,
    });
    const head = 'ply\nformat ascii 1.0\nelement vertex 8\nproperty float x\nelement face 6\nend_header\n';
    expect(inspectModel(text(head), 'a')).toEqual({ format: 'PLY', vertices: 8, faces: 6 });
    const solid = new Uint8Array(84 + 2 * 50);
    solid[80] = 2;
    expect(inspectModel(solid, 'a.stl')).toEqual({ format: 'STL', faces: 2 });
    expect(inspectModel(text('solid a\n facet normal 0 0 1\n endfacet\nendsolid a\n'), 'a.stl')).toEqual({
      format: 'STL',
      faces: 1,
    });
  });
  it('says nothing of others, of what is damaged or hostile', () => {
    const random = seeded(7);
    expect(inspectModel(text('hello'), 'a.obj')).toBeUndefined();
    expect(inspectModel(text('{"asset":'), 'a.gltf')).toBeUndefined();
    expect(inspectModel(text('{"asset":{"version":"2.0"},"meshes":7}'), 'a.gltf')).toMatchObject({ meshes: 0 });
    for (let i = 0; i < 1000; i++) {
      const damaged = binary(SCENE).slice(0, Math.floor(random() * 400));
      for (let hit = 0; hit < 4; hit++) damaged[Math.floor(random() * damaged.length)] = Math.floor(random() * 256);
      for (const name of ['a.glb', 'a.gltf', 'a.obj', 'a.stl']) expect(() => inspectModel(damaged, name)).not.toThrow();
    }
  });
});
