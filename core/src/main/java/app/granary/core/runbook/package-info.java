/** What a person does, in order, to bring one computer back from one image onto one target. Pure; nothing is null. */
package app.granary.core.runbook;
