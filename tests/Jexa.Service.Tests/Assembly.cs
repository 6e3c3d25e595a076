using Jexa.Service.Tests;

[assembly: AssemblyFixture(typeof(DemoService))]
[assembly: AssemblyFixture(typeof(PostgresDemo))]
[assembly: AssemblyFixture(typeof(MariaDbDemo))]
[assembly: AssemblyFixture(typeof(Browser))]
