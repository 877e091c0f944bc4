global using Sexton.Core.Sentences;
global using Shouldly;
global using Xunit;
