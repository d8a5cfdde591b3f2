/** What lies on a drive against what is known of it. */
package app.granary.core.reconciliation;
