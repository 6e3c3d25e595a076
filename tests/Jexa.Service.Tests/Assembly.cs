using Jexa.Service.Tests;

[assembly: AssemblyFixture(typeof(DemoService))]
[assembly: AssemblyFixture(typeof(Browser))]
