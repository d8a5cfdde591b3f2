/** Sticks and discs that start a computer that does not start by itself. Pure; nothing is null. */
package app.granary.core.rescue;
