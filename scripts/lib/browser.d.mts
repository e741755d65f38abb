export declare const LAUNCH: { executablePath: string; args: string[] };
