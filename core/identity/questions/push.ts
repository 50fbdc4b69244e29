export function push<Value>(groups: Map<string, Value[]>, key: string, value: Value): void {
  const group = groups.get(key);
  if (group === undefined) groups.set(key, [value]);
  else group.push(value);
}
