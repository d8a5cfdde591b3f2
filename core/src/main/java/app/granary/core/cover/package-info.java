/** How well a disk is covered: age against plan, and where its images lie. Pure; nothing is null. */
package app.granary.core.cover;
