// Part of the service worker: a press on a notification brings its page to the front, or opens it.
self.addEventListener('notificationclick', event => {
  event.notification.close();
  const path = event.notification.data?.path ?? '/w/mine';
  const bring = async () => {
    const pages = await self.clients.matchAll({ type: 'window', includeUncontrolled: true });
    const open = pages.find(page => new URL(page.url).pathname.startsWith(path)) ?? pages[0];
    await (open ? open.focus() : self.clients.openWindow(path));
  };
  event.waitUntil(bring());
});
