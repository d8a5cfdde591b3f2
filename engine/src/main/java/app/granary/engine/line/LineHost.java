package app.granary.engine.line;

import app.granary.core.fault.Fault;
import app.granary.core.plan.Afterwards;
import app.granary.core.preflight.Power;
import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Insides;
import app.granary.engine.host.Lender;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Shelf;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.RemoteFiles;
import com.fasterxml.jackson.databind.JavaType;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Consumer;

/**
 * A computer somewhere else, as a host: what it has is answered from what it told last, and everything else is asked over its line. Safe
 * for several threads.
 */
public final class LineHost implements Host {
    /** Nothing is refused for want of a line until it is gone for so long: an agent calls again every few seconds. */
    private static final Duration PATIENCE = Duration.ofSeconds(15);

    private final String id;
    private final String name;
    private final Exchange exchange;
    private final Devices devices;
    private final ImageStore store;
    private final Imaging imaging;
    private final Overwriting overwriting;
    private final Insides insides;
    private volatile Optional<HostState> state = Optional.empty();

    /** @param id of the computer among those at hand */
    public LineHost(String id, String name) {
        this(id, name, PATIENCE);
    }

    LineHost(String id, String name, Duration patience) {
        this.id = id;
        this.name = name;
        this.exchange = new Exchange(name, patience);
        this.devices = port(Devices.class, "");
        this.store = port(ImageStore.class, "");
        this.imaging = port(Imaging.class, "");
        this.overwriting = port(Overwriting.class, "");
        this.insides = port(Insides.class, "");
    }

    /** A line was taken up. */
    public void over(Consumer<Message> open) {
        exchange.over(open);
    }

    /** The line is gone, for now. */
    public void broken() {
        exchange.broken();
    }

    /** It was sent away, and is not spoken with any more. */
    public void end() {
        exchange.end();
    }

    /** Whether there is a line, and it has told what it has. */
    public boolean here() {
        return exchange.reached() && state.isPresent();
    }

    /** Whether it ever told what it has, so that its work may still go on. */
    public Optional<HostState> state() {
        return state;
    }

    /** One message of the computer; those that are not its to send are passed over. */
    public void hear(Message message) {
        if (message instanceof Message.Here told) {
            state = Optional.of(told.state());
        } else {
            exchange.hear(message);
        }
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public String simulation() {
        return "";
    }

    @Override
    public Devices devices() {
        return devices;
    }

    @Override
    public ImageStore store() {
        return store;
    }

    @Override
    public Imaging imaging() {
        return imaging;
    }

    @Override
    public Overwriting overwriting() {
        return overwriting;
    }

    @Override
    public Insides insides() {
        return insides;
    }

    @Override
    public Optional<Lender> lender() {
        return Optional.of(new LineLender(name, port(LineLending.class, ""), id -> port(RemoteFiles.class, id), this::takeBack));
    }

    private void takeBack(String lent) {
        try {
            Method call = LineLending.class.getMethod("takeBack", String.class);
            exchange.leave(Calls.LENDING, Calls.of(call).name(), LineJson.trees(List.of(lent), Calls.of(call).types()));
        } catch (NoSuchMethodException | IOException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    @Override
    public Power power() {
        return state.map(HostState::power).orElse(Power.MAINS);
    }

    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        port(Host.class, "").afterwards(diskId, action);
    }

    @Override
    public String machine(String diskId) {
        return id;
    }

    private HostState told() throws IOException {
        return state.orElseThrow(() -> Fault.of(Fault.Kind.DEVICE_FAILED, name, name + " has not reported its disks yet. Wait a moment.")
            .asException());
    }

    /** What is answered here, of what was told last; empty for what has to be asked. */
    private Optional<Object> known(Method call, Object[] arguments) throws IOException {
        Class<?> port = call.getDeclaringClass();
        HostState now = told();
        return switch (call.getName()) {
            case "computers" -> Optional.of(List.of(mine(now.computer())));
            case "seen" -> Optional.of(now.seen());
            case "inUse" -> Optional.of(now.inUse().getOrDefault(arguments[0], ""));
            case "destinations" -> Optional.of(now.destinations());
            case "targets" -> Optional.of(now.targets());
            case "shelf" -> port == ImageStore.class ? Optional.of(port(Shelf.class, (String) arguments[0])) : Optional.empty();
            default -> Optional.empty();
        };
    }

    private HostComputer mine(HostComputer told) {
        return new HostComputer(id, name, told.role(), told.owner(), told.facts(), told.disks());
    }

    private <T> T port(Class<T> port, String of) {
        InvocationHandler asking = (self, call, arguments) -> {
            if (call.getDeclaringClass() == Object.class) {
                return switch (call.getName()) {
                    case "equals" -> self == arguments[0];
                    case "hashCode" -> System.identityHashCode(self);
                    default -> Calls.nameOf(port) + " of " + name;
                };
            }
            Object[] given = arguments == null ? new Object[0] : arguments;
            try {
                Optional<Object> known = known(call, given);
                return known.isPresent() ? known.get() : ask(port, of, call, given);
            } catch (IOException failed) {
                throw List.of(call.getExceptionTypes()).contains(IOException.class) ? failed : new java.io.UncheckedIOException(failed);
            }
        };
        return port.cast(Proxy.newProxyInstance(port.getClassLoader(), new Class<?>[] {port}, asking));
    }

    private Object ask(Class<?> port, String of, Method method, Object[] arguments) throws IOException {
        Calls.Call call = Calls.of(method);
        List<JavaType> types = call.types();
        Object[] told = new Object[arguments.length];
        Watch watch = Watch.NONE;
        for (int i = 0; i < told.length; i++) {
            if (arguments[i] instanceof Watch mine) {
                watch = mine;
            } else {
                told[i] = arguments[i] instanceof InputStream in ? small(in) : arguments[i] instanceof Random lots
                    ? (Object) lots.nextLong()
                    : arguments[i];
            }
        }
        JsonNode end = exchange.ask(Calls.nameOf(port), of, call.name(), LineJson.trees(java.util.Arrays.asList(told), types),
            call.watched(), watch);
        if (method.getReturnType() == void.class) {
            return null;
        }
        try {
            return LineJson.value(end, call.result());
        } catch (IOException | RuntimeException unread) {
            throw LineJson.unread(name, unread).asException();
        }
    }

    private byte[] small(InputStream in) throws IOException {
        byte[] bytes = in.readNBytes(Calls.MOST_SMALL + 1);
        if (bytes.length > Calls.MOST_SMALL) {
            throw Fault.of(Fault.Kind.UNSUPPORTED, name, "A file of more than " + (Calls.MOST_SMALL >> 20)
                + " MiB is not sent to " + name + ". Choose a destination that is attached here.").asException();
        }
        return bytes;
    }
}
