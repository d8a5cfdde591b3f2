package app.granary.server.database;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.SQLException;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.jdbc.datasource.DelegatingDataSource;
import org.springframework.stereotype.Component;

/**
 * Every connection is asked for behind its owner's: a database that had to be closed comes back by itself, and never without writing at
 * once.
 */
@Component
class OpenFirst implements BeanPostProcessor {
    private final ObjectProvider<OwnersConnection> owner;

    OpenFirst(ObjectProvider<OwnersConnection> owner) {
        this.owner = owner;
    }

    @Override
    public Object postProcessAfterInitialization(Object bean, String name) {
        return bean instanceof HikariDataSource pool && name.equals("dataSource") ? new Renewed(pool, owner) : bean;
    }

    /** A pool of connections to the database as it was opened last; those of before look open, fail, and are never given back. */
    private static final class Renewed extends DelegatingDataSource implements AutoCloseable {
        private final ObjectProvider<OwnersConnection> owner;
        private int opened;

        Renewed(HikariDataSource first, ObjectProvider<OwnersConnection> owner) {
            super(first);
            this.owner = owner;
        }

        @Override
        public Connection getConnection() throws SQLException {
            renew(owner.getObject().requireOpen());
            return super.getConnection();
        }

        private synchronized void renew(int now) {
            if (now != opened && getTargetDataSource() instanceof HikariDataSource before) {
                HikariConfig same = new HikariConfig();
                before.copyStateTo(same);
                setTargetDataSource(new HikariDataSource(same));
                opened = now;
                Thread closing = new Thread(before::close, "granary-old-pool"); // it waits for what is never given back
                closing.setDaemon(true);
                closing.start();
            }
        }

        @Override
        public void close() {
            if (getTargetDataSource() instanceof HikariDataSource pool) {
                pool.close();
            }
        }
    }
}
