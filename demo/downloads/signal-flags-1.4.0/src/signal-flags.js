export function hoist() {}
