/** Whether this browser was asked and allows notifications. */
const allowed = () => typeof Notification !== 'undefined' && Notification.permission === 'granted';

/**
 * A notification where the browser allows one and nobody is looking; the same `tag` takes the place of an older one.
 * `path` is the page that a press on it opens.
 */
export async function notify(words: string, tag: string, path: string): Promise<void> {
  if (!allowed() || document.visibilityState === 'visible') return;
  const options = { body: words, tag, data: { path } };
  try {
    // Phones only allow notifications from a service worker.
    const worker = await navigator.serviceWorker?.getRegistration();
    if (worker?.active) await worker.showNotification('Wet Test', options);
    else new Notification('Wet Test', options);
  } catch {
    // Not allowed after all: the drying line and the sounds say the same.
  }
}
