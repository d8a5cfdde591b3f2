/** Images and disks written onto other disks, with runbook, checklist and signature. */
package app.granary.server.restore;
