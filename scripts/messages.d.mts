export const languages: () => string[];
export const roomsOf: (language: string) => [room: string, messages: Record<string, string>][];
export function holesOf(message: string): Map<string, 'string' | 'number'>;
export function compileMessages(): Promise<void>;
