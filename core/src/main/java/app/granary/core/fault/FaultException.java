package app.granary.core.fault;

import java.io.IOException;

/** Carries a {@link Fault} out of work that cannot go on. Its message is the fault's sentence. */
public final class FaultException extends IOException {
    private static final long serialVersionUID = 1L;
    private final transient Fault fault;

    FaultException(Fault fault) {
        super(fault.sentence());
        this.fault = fault;
    }

    public Fault fault() {
        return fault;
    }
}
