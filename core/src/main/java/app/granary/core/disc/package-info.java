/** Discs that images are burned on. */
package app.granary.core.disc;
