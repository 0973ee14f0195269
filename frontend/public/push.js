// Shows an alarm while no page of ours is open, and opens the testers when it is pressed.
self.addEventListener("push", (event) => {
  const told = event.data ? event.data.json() : { title: "Alarm", tag: "alarm", url: "/table" };
  event.waitUntil(
    self.registration.showNotification(told.title, {
      tag: told.tag,
      data: told.url,
      requireInteraction: true,
      vibrate: [400, 150, 400, 150, 400],
    }),
  );
});
self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  event.waitUntil(self.clients.openWindow(event.notification.data));
});
