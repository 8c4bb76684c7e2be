// Tideclock: tells the state of a tide that turns every six hours and twelve minutes.
const Tideclock = {
  period: 12.4 * 60 * 60 * 1000,

  /** The height of the water at a moment, from -1 (low water) to 1 (high water). */
  height(moment) {
    return Math.cos((2 * Math.PI * (moment % this.period)) / this.period);
  },

  /** The state of the tide at a moment, in words. */
  state(moment) {
    const now = this.height(moment);
    if (now > 0.95) return 'High water';
    if (now < -0.95) return 'Low water';
    return this.height(moment + 60000) > now ? 'Rising' : 'Falling';
  },
};
