import { z } from 'zod';
import type { PackPath, TargetPath } from './paths';

/** A schema of texts that are targets once it has let them through. */
export const asTarget = (schema: z.ZodString): z.ZodType<TargetPath, string> =>
  schema as z.ZodType<string, string> as z.ZodType<TargetPath, string>;

/** A schema of texts that are paths inside a pack once it has let them through. */
export const asPackPath = (schema: z.ZodString): z.ZodType<PackPath, string> =>
  schema as z.ZodType<string, string> as z.ZodType<PackPath, string>;
