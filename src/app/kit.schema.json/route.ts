import { kitJsonSchema } from '@/core';

/** The published JSON Schema of kits. */
export const GET = (): Response => Response.json(kitJsonSchema(), { headers: { 'Content-Type': 'application/schema+json' } });
