export function encode(text: string): string;
export function check(text: string, each: (symbol: string) => boolean): boolean;
