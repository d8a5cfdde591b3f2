/** Images laid out for discs. */
package app.granary.engine.disc;
