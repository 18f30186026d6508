// Stands in for Node's own `module` where a package names it but a browser never reaches it (see next.config.ts).
export {};
