import { z } from 'zod';
import { extensionOf } from '../paths/paths';

/** What a file of a model says about itself. What a format does not say is left away. */
export interface ModelInfo {
  format: 'glTF' | 'glTF, binary' | 'OBJ' | 'PLY' | 'STL';
  meshes?: number;
  vertices?: number;
  /** Triangles; of OBJ and PLY faces, which may have more corners. */
  faces?: number;
  materials?: number;
  animations?: number;
}

/** Larger descriptions of a scene are not read. */
const LARGEST_JSON = 32 * 1024 ** 2;

/** What is counted of a glTF 2.0 (Khronos, "glTF 2.0 Specification", 5.1 accessors, 5.23 meshes, 5.24 primitives). */
const gltfSchema = z.object({
  asset: z.object({ version: z.string() }),
  accessors: z.array(z.object({ count: z.number().int().nonnegative() })).catch([]),
  meshes: z
    .array(
      z.object({
        primitives: z.array(
          z.object({
            mode: z.number().int().default(4),
            indices: z.number().int().optional(),
            attributes: z.object({ POSITION: z.number().int().optional() }),
          }),
        ),
      }),
    )
    .catch([]),
  materials: z.array(z.unknown()).catch([]),
  animations: z.array(z.unknown()).catch([]),
});

/** Only these are sets of separate triangles (glTF 2.0, 3.7.2.1). */
const TRIANGLES = 4;

/**
 * Reads what a model's file says about itself: glTF 2.0 and its binary form (Khronos), OBJ, PLY, STL in both forms.
 *
 * @param data the whole file
 * @param name its name: OBJ has no signature
 * @returns undefined where it is none of them or cannot be read
 */
export function inspectModel(data: Uint8Array, name: string): ModelInfo | undefined {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  const ascii = (from: number, to: number) => String.fromCharCode(...data.subarray(from, to));
  if (data.length >= 20 && ascii(0, 4) === 'glTF') {
    // The first chunk of a version 2 file is its JSON (glTF 2.0, 4.4.3).
    const length = view.getUint32(12, true);
    if (view.getUint32(4, true) !== 2 || ascii(16, 20) !== 'JSON' || 20 + length > data.length) return undefined;
    return gltf(data.subarray(20, 20 + length), 'glTF, binary');
  }
  if (/^ply\r?\n/.test(ascii(0, 5))) return ply(ascii(0, 4096));
  switch (extensionOf(name)) {
    case 'gltf':
      return gltf(data, 'glTF');
    case 'obj':
      return obj(data);
    case 'stl':
      return stl(data, view);
    default:
      return undefined;
  }
}

function gltf(json: Uint8Array, format: ModelInfo['format']): ModelInfo | undefined {
  if (json.length > LARGEST_JSON) return undefined;
  try {
    const { accessors, meshes, materials, animations } = gltfSchema.parse(JSON.parse(new TextDecoder().decode(json)));
    const parts = meshes.flatMap(({ primitives }) => primitives);
    const count = (accessor: number | undefined) => (accessor === undefined ? 0 : (accessors[accessor]?.count ?? 0));
    // Parts may share their corners.
    const corners = new Set(parts.map(({ attributes }) => attributes.POSITION));
    return {
      format,
      meshes: meshes.length,
      vertices: [...corners].reduce<number>((sum, accessor) => sum + count(accessor), 0),
      faces: parts
        .filter(({ mode }) => mode === TRIANGLES)
        .reduce((sum, part) => sum + Math.floor(count(part.indices ?? part.attributes.POSITION) / 3), 0),
      materials: materials.length,
      animations: animations.length,
    };
  } catch {
    // Not a description of a scene; its size is told all the same.
    return undefined;
  }
}

/** One statement a line: `v` for a corner, `f` for a face, `o` for an object, `usemtl` for what it is made of. */
function obj(data: Uint8Array): ModelInfo | undefined {
  const count = { v: 0, f: 0, o: 0 };
  const materials = new Set<string>();
  for (const line of new TextDecoder().decode(data).split('\n')) {
    const [word = '', first = ''] = line.trimStart().split(/\s+/, 2);
    if (word === 'v' || word === 'f' || word === 'o') count[word]++;
    else if (word === 'usemtl') materials.add(first);
  }
  if (count.v === 0) return undefined;
  return { format: 'OBJ', meshes: Math.max(1, count.o), vertices: count.v, faces: count.f, materials: materials.size };
}

/** The header tells how many of each there are: `element vertex 8`. */
function ply(head: string): ModelInfo {
  const of = (element: string) => Number(new RegExp(`^element ${element} (\\d+)\\s*$`, 'm').exec(head)?.[1] ?? 0);
  return { format: 'PLY', vertices: of('vertex'), faces: of('face') };
}

/** Binary: 80 bytes of anything, the number of triangles, 50 bytes for each. As text: one `facet` each. */
function stl(data: Uint8Array, view: DataView): ModelInfo | undefined {
  const faces = data.length >= 84 ? view.getUint32(80, true) : 0;
  if (data.length >= 84 && data.length === 84 + faces * 50) return { format: 'STL', faces };
  const text = new TextDecoder().decode(data);
  return /^\s*solid\b/.test(text) ? { format: 'STL', faces: text.match(/^\s*facet\s/gm)?.length ?? 0 } : undefined;
}
