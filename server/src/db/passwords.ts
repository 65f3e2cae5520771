// Passwords as they are chosen: long enough, and none that is known from leaks (NIST SP 800-63B, 3.1.1.2).

import { dictionary } from '@zxcvbn-ts/language-common';
import { minPassword } from '@nibber/core/permissions';
import { Problem } from '@nibber/core/problem';

/** Read when the first password is chosen. */
let leaked: ReadonlySet<string> | undefined;

/** Whether it is a leaked password, as it stands or with figures and signs behind it that lengthen it alone. */
function isLeaked(password: string): boolean {
  leaked ??= new Set(dictionary['passwords-common'] as readonly string[]);
  const plain = password.toLowerCase();
  return [plain, plain.replace(/[\d\p{P}\p{S}]+$/u, ''), plain.replace(/^(.+?)\1+$/u, '$1')].some((p) => leaked!.has(p));
}

/** @throws Problem 'bad-input' */
export function checkPassword(password: string): void {
  if ([...password].length < minPassword)
    throw new Problem('bad-input', 'The password is too short.', `Use at least ${minPassword} characters.`);
  if (isLeaked(password))
    throw new Problem('bad-input', 'This password is on lists of leaked passwords.', 'Choose another, such as four unrelated words.');
}
