/**
 * What runs tonight: which plans, in which order, on which drive, ending when. Start with {@link app.granary.core.night.NightPlanner}. A
 * disk in use is not imaged, so most computers are booted from rescue media first, which needs a person (common practice, no source).
 * Nothing is null; the same question always gets the same answer.
 */
package app.granary.core.night;
