/** How long a restore takes, by the clock and by hand. */
package app.granary.core.restore;
