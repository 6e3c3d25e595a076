namespace Jexa.Service.Tests;

// Every test of editing, over each engine that can be edited.
public sealed class SqliteEditTests(SqliteEditApp app) : EditTests(app), IClassFixture<SqliteEditApp>;

public sealed class PostgresEditTests(PostgresEditApp app) : EditTests(app), IClassFixture<PostgresEditApp>;

public sealed class MariaDbEditTests(MariaDbEditApp app) : EditTests(app), IClassFixture<MariaDbEditApp>;

public sealed class SqliteConflictTests(SqliteEditApp app) : ConflictTests(app), IClassFixture<SqliteEditApp>;

public sealed class PostgresConflictTests(PostgresEditApp app) : ConflictTests(app), IClassFixture<PostgresEditApp>;

public sealed class MariaDbConflictTests(MariaDbEditApp app) : ConflictTests(app), IClassFixture<MariaDbEditApp>;

public sealed class SqliteEditJsonTests(SqliteEditApp app) : EditJsonTests(app), IClassFixture<SqliteEditApp>;

public sealed class PostgresEditJsonTests(PostgresEditApp app) : EditJsonTests(app), IClassFixture<PostgresEditApp>;

public sealed class MariaDbEditJsonTests(MariaDbEditApp app) : EditJsonTests(app), IClassFixture<MariaDbEditApp>;

public sealed class SqliteEditSafetyTests(SqliteEditApp app) : EditSafetyTests(app), IClassFixture<SqliteEditApp>;

public sealed class PostgresEditSafetyTests(PostgresEditApp app) : EditSafetyTests(app), IClassFixture<PostgresEditApp>;

public sealed class MariaDbEditSafetyTests(MariaDbEditApp app) : EditSafetyTests(app), IClassFixture<MariaDbEditApp>;

public sealed class SqliteChangeLogTests(SqliteEditApp app) : ChangeLogTests(app), IClassFixture<SqliteEditApp>;

public sealed class PostgresChangeLogTests(PostgresEditApp app) : ChangeLogTests(app), IClassFixture<PostgresEditApp>;

public sealed class MariaDbChangeLogTests(MariaDbEditApp app) : ChangeLogTests(app), IClassFixture<MariaDbEditApp>;
