/** What every engine has that the core runs on, and the language's own library does not name. */
declare function structuredClone<T>(value: T): T;
