package app.granary.server.home;

import java.nio.file.Path;
import java.util.Map;
import org.springframework.context.ApplicationContextInitializer;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.core.Ordered;
import org.springframework.core.env.ConfigurableEnvironment;
import org.springframework.core.env.MapPropertySource;

/**
 * Makes the home ready as soon as it is known which it is, and hands on the database's keys; found by Spring through
 * META-INF/spring.factories.
 */
public final class HomePreparation implements ApplicationContextInitializer<ConfigurableApplicationContext>, Ordered {
    @Override
    public int getOrder() {
        return Ordered.LOWEST_PRECEDENCE;
    }

    @Override
    public void initialize(ConfigurableApplicationContext context) {
        ConfigurableEnvironment environment = context.getEnvironment();
        Keys keys = new HomeFolder(Path.of(environment.getRequiredProperty("granary.home")))
            .prepare(environment.getProperty("granary.demo", Boolean.class, false));
        environment.getPropertySources().addFirst(new MapPropertySource("granary keys",
            Map.of("spring.flyway.password", keys.owner(), "spring.datasource.password", keys.worker())));
    }
}
