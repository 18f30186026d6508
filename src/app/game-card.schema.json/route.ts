import { gameCardJsonSchema } from '@/core';

/** The published JSON Schema of game cards. */
export const GET = (): Response => Response.json(gameCardJsonSchema(), { headers: { 'Content-Type': 'application/schema+json' } });
