/** Every instrument was simulated until now: a shop that is there keeps them until it says otherwise. */
export const standIns = {
  name: '0021-stand-ins',
  up: [
    `UPDATE shop SET rules = json_set(rules, '$.standIns', json('["scale","caliper","angle-gauge","tip-gauge","balancer","scanner","photo-stand"]'))`,
  ],
};
