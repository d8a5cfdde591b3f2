package app.granary.engine.line;

import app.granary.core.disk.Extents;
import app.granary.core.fault.Fault;
import app.granary.engine.openpgp.Passphrase;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.databind.AnnotationIntrospector;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.JavaType;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.annotation.JsonPOJOBuilder;
import com.fasterxml.jackson.databind.cfg.MapperConfig;
import com.fasterxml.jackson.databind.deser.std.StdDeserializer;
import com.fasterxml.jackson.databind.introspect.Annotated;
import com.fasterxml.jackson.databind.introspect.AnnotatedClass;
import com.fasterxml.jackson.databind.introspect.AnnotatedMember;
import com.fasterxml.jackson.databind.introspect.NopAnnotationIntrospector;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.jsontype.NamedType;
import com.fasterxml.jackson.databind.jsontype.TypeResolverBuilder;
import com.fasterxml.jackson.databind.jsontype.impl.StdTypeResolverBuilder;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.databind.ser.std.StdSerializer;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalLong;

/**
 * How the records of the ports are written as JSON (RFC 8259). What a record has beside its components is not written; which of a sealed
 * interface's records one is says the field "is". Only what the code itself names can be read: no type comes from the wire.
 */
public final class LineJson {
    private static final ObjectMapper JSON = mapper();

    private LineJson() {
    }

    private static ObjectMapper mapper() {
        SimpleModule own = new SimpleModule("line");
        own.addSerializer(Extents.class, new ExtentsOut());
        own.addDeserializer(Extents.class, new ExtentsIn());
        own.addSerializer(Passphrase.class, new PassphraseOut());
        own.addDeserializer(Passphrase.class, new PassphraseIn());
        ObjectMapper out = JsonMapper.builder().addModules(new Jdk8Module(), new JavaTimeModule(), own)
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).disable(SerializationFeature.WRITE_DATES_AS_TIMESTAMPS)
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES).enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
            .visibility(com.fasterxml.jackson.annotation.PropertyAccessor.ALL,
                com.fasterxml.jackson.annotation.JsonAutoDetect.Visibility.NONE)
            .visibility(com.fasterxml.jackson.annotation.PropertyAccessor.FIELD,
                com.fasterxml.jackson.annotation.JsonAutoDetect.Visibility.ANY)
            .visibility(com.fasterxml.jackson.annotation.PropertyAccessor.CREATOR,
                com.fasterxml.jackson.annotation.JsonAutoDetect.Visibility.ANY)
            .build();
        AnnotationIntrospector usual = out.getSerializationConfig().getAnnotationIntrospector();
        return out.setAnnotationIntrospector(AnnotationIntrospector.pair(usual, new Sealed()));
    }

    public static String text(Message message) {
        try {
            return JSON.writerFor(Message.class).writeValueAsString(message);
        } catch (IOException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** @throws IOException when it is no message, with what is wrong with it */
    public static Message message(String text) throws IOException {
        return some(JSON.readValue(text, Message.class), "message");
    }

    static JsonNode tree(Object value, JavaType type) throws IOException {
        return JSON.readTree(JSON.writerFor(type).writeValueAsString(value));
    }

    static <T> T value(JsonNode tree, JavaType type) throws IOException {
        T out = JSON.readerFor(type).readValue(tree);
        return type.getRawClass() == void.class || type.getRawClass() == Void.class ? out : some(out, type.toCanonical());
    }

    private static <T> T some(T value, String what) throws IOException {
        if (value == null) {
            throw new IOException("nothing was told where a " + what + " belongs");
        }
        return value;
    }

    static JavaType type(java.lang.reflect.Type type) {
        return JSON.constructType(type);
    }

    static JsonNode nothing() {
        return JSON.getNodeFactory().nullNode();
    }

    /** One of a sealed interface's records is told by its name. */
    private static final class Sealed extends NopAnnotationIntrospector {
        private static final long serialVersionUID = 1L;

        @Override
        public TypeResolverBuilder<?> findTypeResolver(MapperConfig<?> config, AnnotatedClass of, JavaType type) {
            return byKind(type);
        }

        @Override
        public TypeResolverBuilder<?> findPropertyTypeResolver(MapperConfig<?> config, AnnotatedMember of, JavaType type) {
            return null;
        }

        /** Long and String are of a sealed interface too, of Java's own. */
        private static boolean ours(Class<?> type) {
            return type.isSealed() && type.getName().startsWith("app.granary.");
        }

        private static TypeResolverBuilder<?> byKind(JavaType type) {
            boolean named = ours(type.getRawClass()) || Arrays.stream(type.getRawClass().getInterfaces()).anyMatch(Sealed::ours);
            return !named || type.getRawClass().isEnum() ? null
                : new StdTypeResolverBuilder().init(JsonTypeInfo.Id.NAME, null).inclusion(JsonTypeInfo.As.PROPERTY).typeProperty("is");
        }

        @Override
        public List<NamedType> findSubtypes(Annotated of) {
            Class<?>[] permitted = of.getRawType().getPermittedSubclasses();
            return permitted == null ? null : Arrays.stream(permitted).map(each -> new NamedType(each, each.getSimpleName())).toList();
        }

        @Override
        public JsonPOJOBuilder.Value findPOJOBuilderConfig(AnnotatedClass of) {
            return null;
        }
    }

    /** Starts and lengths, each as the distance to what came before, in as few bytes as it needs: a disk may have a million ranges. */
    private static final class ExtentsOut extends StdSerializer<Extents> {
        private static final long serialVersionUID = 1L;

        ExtentsOut() {
            super(Extents.class);
        }

        @Override
        public void serialize(Extents value, JsonGenerator out, SerializerProvider unused) throws IOException {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            long at = 0;
            for (int i = 0; i < value.count(); i++) {
                varint(bytes, value.start(i) - at);
                varint(bytes, value.end(i) - value.start(i));
                at = value.end(i);
            }
            out.writeBinary(bytes.toByteArray());
        }

        private static void varint(ByteArrayOutputStream out, long value) {
            long left = value;
            for (; left > 0x7F; left >>>= 7) {
                out.write((int) (left & 0x7F) | 0x80);
            }
            out.write((int) left);
        }
    }

    private static final class ExtentsIn extends StdDeserializer<Extents> {
        private static final long serialVersionUID = 1L;

        ExtentsIn() {
            super(Extents.class);
        }

        @Override
        public Extents deserialize(JsonParser in, DeserializationContext unused) throws IOException {
            ByteArrayInputStream bytes = new ByteArrayInputStream(in.getBinaryValue());
            Extents.Builder out = new Extents.Builder();
            long at = 0;
            while (bytes.available() > 0) {
                long start = Math.addExact(at, varint(bytes));
                at = Math.addExact(start, varint(bytes));
                if (start < 0 || at <= start) {
                    throw new IOException("a range of bytes ends before it begins");
                }
                out.add(start, at);
            }
            return out.build();
        }

        private static long varint(ByteArrayInputStream in) throws IOException {
            long out = 0;
            for (int shift = 0; shift < 63; shift += 7) {
                int next = in.read();
                out |= (long) (next & 0x7F) << shift;
                if (next >= 0 && next < 0x80) {
                    return out;
                }
            }
            throw new IOException("a range of bytes has no end");
        }
    }

    private static final class PassphraseOut extends StdSerializer<Passphrase> {
        private static final long serialVersionUID = 1L;

        PassphraseOut() {
            super(Passphrase.class);
        }

        @Override
        public void serialize(Passphrase value, JsonGenerator out, SerializerProvider unused) throws IOException {
            char[] text = value.forTheLine();
            out.writeString(text, 0, text.length);
            Arrays.fill(text, ' ');
        }
    }

    private static final class PassphraseIn extends StdDeserializer<Passphrase> {
        private static final long serialVersionUID = 1L;

        PassphraseIn() {
            super(Passphrase.class);
        }

        @Override
        public Passphrase deserialize(JsonParser in, DeserializationContext unused) throws IOException {
            return Passphrase.of(in.getText().toCharArray());
        }
    }

    /** A fault of the line itself, or of what came over it. */
    static Fault unread(String device, Exception why) {
        return new Fault(Fault.Kind.DEVICE_FAILED, device, OptionalLong.empty(), "", "", "What " + device + " told could not be read ("
            + why.getMessage() + "). Is its agent the one this office offers?");
    }

    static List<JsonNode> trees(List<?> values, List<JavaType> types) throws IOException {
        List<JsonNode> out = new ArrayList<>();
        for (int i = 0; i < types.size(); i++) {
            out.add(values.get(i) == null ? nothing() : tree(values.get(i), types.get(i)));
        }
        return out;
    }
}
