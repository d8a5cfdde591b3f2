package app.granary.server.problem;

import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.Nulls;
import org.springframework.boot.autoconfigure.jackson.Jackson2ObjectMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** A list or a map that is sent holds no null: it is refused where it is read, so that nobody behind meets one. */
@Configuration
class NoNullWithin {
    @Bean
    Jackson2ObjectMapperBuilderCustomizer refusingThem() {
        return builder -> builder.postConfigurer(json -> json.setDefaultSetterInfo(JsonSetter.Value.forContentNulls(Nulls.FAIL)));
    }
}
