package app.granary.engine.line;

import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Insides;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Shelf;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.RemoteFiles;
import com.fasterxml.jackson.databind.JavaType;
import java.io.InputStream;
import java.lang.reflect.Method;
import java.lang.reflect.Type;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** Which calls of the ports go over the line, and of which types they are. Nothing else can be asked for. */
public final class Calls {
    static final String SHELF = "shelf";
    static final String FILES = "files";
    static final String LENDING = "lending";
    private static final Map<String, Class<?>> PORTS = new LinkedHashMap<>();
    /** Longest small file that goes over the line, in bytes: a card, a label, a copy of the office's database. */
    static final int MOST_SMALL = 4 << 20;

    static {
        PORTS.put("devices", Devices.class);
        PORTS.put("store", ImageStore.class);
        PORTS.put(SHELF, Shelf.class);
        PORTS.put("imaging", Imaging.class);
        PORTS.put("overwriting", Overwriting.class);
        PORTS.put("insides", Insides.class);
        PORTS.put("host", Host.class);
        PORTS.put(LENDING, LineLending.class);
        PORTS.put(FILES, RemoteFiles.class);
    }

    private static final Map<String, Map<String, Call>> ALL = PORTS.entrySet().stream().collect(Collectors.toMap(Map.Entry::getKey,
        port -> Arrays.stream(port.getValue().getMethods()).map(Call::new).collect(Collectors.toMap(Call::name, call -> call))));

    private Calls() {
    }

    /** One of them. */
    record Call(Method method) {
        /** As it is told on the line. */
        String name() {
            return method.getName() + Arrays.stream(method.getParameterTypes()).map(Class::getSimpleName)
                .collect(Collectors.joining(",", "(", ")"));
        }

        /** What each argument is on the line: bytes for what is read from, a number for what draws lots, nothing for a watch. */
        List<JavaType> types() {
            return Arrays.stream(method.getGenericParameterTypes()).map(Call::onTheLine).map(LineJson::type).toList();
        }

        private static Type onTheLine(Type type) {
            return type == InputStream.class ? byte[].class : type == Random.class ? Long.class : type;
        }

        JavaType result() {
            return LineJson.type(method.getGenericReturnType());
        }

        /** Whether it is long work, with progress, that can be stopped. */
        boolean watched() {
            return Arrays.asList(method.getParameterTypes()).contains(Watch.class);
        }
    }

    static Class<?> port(String name) {
        return PORTS.get(name);
    }

    static String nameOf(Class<?> port) {
        return PORTS.entrySet().stream().filter(each -> each.getValue() == port).map(Map.Entry::getKey).findFirst().orElseThrow();
    }

    static Call of(Method method) {
        return new Call(method);
    }

    /** Empty when there is no such call. */
    static Optional<Call> of(String port, String name) {
        return Optional.ofNullable(ALL.getOrDefault(port, Map.of()).get(name));
    }

    /** All of them as text, a line each, for the protocol's document. */
    public static String listed() {
        StringBuilder out = new StringBuilder();
        PORTS.keySet().forEach(port -> new TreeMap<>(ALL.get(port)).forEach((name, call) -> out.append("- `").append(port).append("` `")
            .append(name).append("` gives `").append(call.method.getReturnType().getSimpleName()).append("`\n")));
        return out.toString();
    }
}
