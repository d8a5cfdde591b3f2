/** What needs a person this morning, and in which order. */
package app.granary.core.today;
