/** What a game card says of a key's values. */
export interface KeyRule {
  type: 'flag' | 'number' | 'text';
  min?: number | undefined;
  max?: number | undefined;
  options?: readonly string[] | undefined;
}

/**
 * What is wrong with a value, as the end of a sentence; undefined where nothing is.
 *
 * @example checkValue({ type: 'number', min: 60, max: 110 }, '120') // 'it must not be above 110'
 */
export function checkValue({ type, min, max, options }: KeyRule, value: string): string | undefined {
  if (/[\r\n]/.test(value)) return 'it must stand on one line';
  if (options && !options.includes(value)) return `it must be one of ${options.join(', ')}`;
  if (type === 'flag' && !/^(0|1|true|false|yes|no|on|off)$/i.test(value)) return 'it must be on or off: 1 or 0';
  if (type !== 'number') return undefined;
  if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(value)) return 'it must be a number';
  if (min !== undefined && Number(value) < min) return `it must not be below ${min}`;
  if (max !== undefined && Number(value) > max) return `it must not be above ${max}`;
  return undefined;
}
