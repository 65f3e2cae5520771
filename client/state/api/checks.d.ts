// The checks of what forms send, as the server makes them (checks.js is made from its routes: npm run schema).

import type { ErrorObject } from 'ajv';

type Check = { (body: unknown): boolean; errors?: readonly ErrorObject[] | null };

export declare const signIn: Check;
export declare const owner: Check;
export declare const password: Check;
export declare const token: Check;
export declare const attempt: Check;
export declare const paired: Check;
export declare const cameraLogin: Check;
