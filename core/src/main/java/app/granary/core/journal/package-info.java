/** What was done, line by line, each sealed with all before it. Pure; nothing is null. */
package app.granary.core.journal;
