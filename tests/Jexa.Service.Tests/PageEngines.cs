namespace Jexa.Service.Tests;

// Every test of the demo's pages, over each server that its data can stand in; over SQLite they run by themselves.
public sealed class PostgresHttpTests(PostgresDemo demo) : HttpTests(demo);

public sealed class MariaDbHttpTests(MariaDbDemo demo) : HttpTests(demo);

public sealed class PostgresWalkTests(PostgresDemo demo, Browser browser) : WalkTests(demo, browser);

public sealed class MariaDbWalkTests(MariaDbDemo demo, Browser browser) : WalkTests(demo, browser);

public sealed class PostgresBrowserTests(PostgresDemo demo, Browser browser) : BrowserTests(demo, browser);

public sealed class MariaDbBrowserTests(MariaDbDemo demo, Browser browser) : BrowserTests(demo, browser);
