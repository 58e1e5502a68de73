/**
 * Refuses a change that another web page sent: the Origin must be this server's own. Requests without one come from
 * programs on this computer, which no page can steer.
 */
export function foreignOrigin(request: Request): boolean {
  const origin = request.headers.get('origin')
  if (origin === null) return false
  try {
    return new URL(origin).host !== request.headers.get('host')
  } catch {
    return true
  }
}
