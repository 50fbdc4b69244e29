/* Shows notices that come by Web Push, and opens their page. It keeps nothing and fetches nothing. */

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("push", (event) => {
  let notice = {};
  try {
    notice = event.data?.json() ?? {};
  } catch {
    // What isn't Amigo's is shown as a notice without words: a browser takes the right away from a page that shows none.
  }
  const { title = "Amigo", body = "", tag = "", url = "/" } = notice;
  event.waitUntil(
    self.registration.showNotification(String(title), {
      body: String(body),
      tag: String(tag),
      icon: "/icon-192.png",
      badge: "/icon-badge.png",
      data: { url: String(url) },
    }),
  );
});

self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  const wanted = new URL(event.notification.data?.url ?? "/", self.location.origin);
  // Only pages of this Amigo are opened, whatever a message says.
  const url = new URL(wanted.pathname + wanted.search, self.location.origin).href;
  event.waitUntil(
    self.clients.matchAll({ type: "window", includeUncontrolled: true }).then(async (windows) => {
      const open = windows.find((window) => "focus" in window);
      if (open === undefined) return self.clients.openWindow(url);
      await open.focus();
      return "navigate" in open
        ? open.navigate(url).catch(() => self.clients.openWindow(url))
        : undefined;
    }),
  );
});
