package app.granary.engine.remote;

import app.granary.core.fault.Fault;
import app.granary.engine.progress.Rest;
import java.io.IOException;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.time.Duration;
import java.util.function.BooleanSupplier;

/** Asks again for what could not be asked, for a day. */
public final class PatientFiles {
    private static final long AGAIN_MILLIS = 500;
    private static final Duration GIVES_UP = Duration.ofHours(24);

    private PatientFiles() {
    }

    /** @param stopped whether nobody waits for it any more */
    public static RemoteFiles of(RemoteFiles files, BooleanSupplier stopped) {
        InvocationHandler asking = (self, call, arguments) -> {
            long end = System.nanoTime() + GIVES_UP.toNanos();
            while (true) {
                try {
                    return call.invoke(files, arguments);
                } catch (InvocationTargetException failed) {
                    if (!(failed.getCause() instanceof NotNow)) {
                        throw failed.getCause();
                    }
                    rest(stopped.getAsBoolean(), System.nanoTime() > end);
                }
            }
        };
        return (RemoteFiles) Proxy.newProxyInstance(RemoteFiles.class.getClassLoader(), new Class<?>[] {RemoteFiles.class}, asking);
    }

    private static void rest(boolean stopped, boolean late) throws IOException {
        if (stopped) {
            throw Fault.of(Fault.Kind.STOPPED, "folder", "It was stopped while it waited for the computer that has the drive.")
                .asException();
        }
        if (late) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, "folder", "The computer that has the drive was not reached for a day. What had been "
                + "sent lies there unfinished, and can be carried on.").asException();
        }
        Rest.millis(AGAIN_MILLIS);
    }
}
