/** @returns the file in which the program now stands */
export declare function whole(entry: string): Promise<string>;
