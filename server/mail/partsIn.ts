export function partsIn(
  timeZone: string,
  now: Date,
): { hour: number; minute: number; weekday: number } {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone,
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
    weekday: "short",
  }).formatToParts(now);
  const of = (type: string): string => parts.find((part) => part.type === type)?.value ?? "";
  return {
    hour: Number(of("hour")),
    minute: Number(of("minute")),
    weekday: ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"].indexOf(of("weekday")) + 1,
  };
}
