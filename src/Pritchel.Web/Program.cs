var b = WebApplication.CreateBuilder(args); b.Build().Run();
