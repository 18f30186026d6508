export default function asModule(source: string): string;
