export const ROLE: string;
export function roleStatements(database: string, password: string): string;
