/**
 * What went wrong, as fields and as one sentence a person can act on. Nothing here is ever null; an unknown offset is an empty
 * {@link java.util.OptionalLong}. Start with {@link app.granary.core.fault.Fault}.
 */
package app.granary.core.fault;
