package app.granary.engine.hosts;

import app.granary.engine.host.Lender;
import java.io.Closeable;
import java.io.IOException;

/** Carries the calls of a computer that joined to what is lent to it, for one piece of work. */
public interface Serving {
    /** Until it is closed; the loan is closed with it. */
    interface Served extends Closeable {
        /** What the other machine calls it. */
        String destinationId();
    }

    /** Nobody but that computer reaches it. */
    Served serve(Member to, Lender.Loan loan) throws IOException;
}
