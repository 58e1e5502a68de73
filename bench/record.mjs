// Preloaded into a web server: every statement that goes to the database is told to the parent process as well.
import pg from 'pg'

const query = pg.Client.prototype.query
pg.Client.prototype.query = function (...given) {
  const [first, second] = given
  const text = typeof first === 'string' ? first : first?.text
  const values = Array.isArray(second) ? second : first?.values
  if (text && process.connected) process.send({ text, values: values ?? [], name: first?.name })
  return query.apply(this, given)
}
